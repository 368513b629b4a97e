// Runs a command of this folder by its name, from one file that is made anew when a source has changed.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const CACHE = join(ROOT, '.cache');
/** What a command may be made of. */
const SOURCES = ['core', 'demo', 'ops', 'schemas', 'service', 'standin', 'store'];
const SETTINGS = ['package-lock.json', 'tsconfig.json'];

const [, , name] = process.argv;
process.argv.splice(1, 2, join(ROOT, 'ops', `${name}.ts`));
await import(pathToFileURL(await madeOf(name)).href);

async function madeOf(command) {
  // One level below the root, as its source is: it looks for the root from there.
  const file = `${command}-${hashOfSources()}.mjs`;
  if (existsSync(join(CACHE, file))) return join(CACHE, file);
  const fresh = `${file}.${process.pid}`;
  try {
    mkdirSync(CACHE, { recursive: true });
    const { oneFile } = await import('./oneFile.mjs');
    await oneFile(ROOT, join(ROOT, 'ops', `${command}.ts`), join(CACHE, fresh));
    for (const old of readdirSync(CACHE))
      if (old !== file && new RegExp(`^${command}-[0-9a-f]{16}\\.mjs$`).test(old)) rmSync(join(CACHE, old));
    // Two that start at once both make it, and both find it whole.
    renameSync(join(CACHE, fresh), join(CACHE, file));
  } catch (error) {
    console.error(
      /ENOSPC|no space left/i.test(String(error))
        ? 'The disk is full: free some space and start again.'
        : `bin/${command} could not be made ready: ${error.message}`,
    );
    process.exit(1);
  }
  return join(CACHE, file);
}

function hashOfSources() {
  const hash = createHash('sha256');
  for (const folder of SOURCES)
    for (const entry of readdirSync(join(ROOT, folder), { recursive: true }).sort())
      if (/\.(ts|mjs|json)$/.test(entry) && !entry.endsWith('.test.ts'))
        hash.update(entry).update(readFileSync(join(ROOT, folder, entry)));
  for (const entry of SETTINGS) hash.update(readFileSync(join(ROOT, entry)));
  return hash.digest('hex').slice(0, 16);
}
