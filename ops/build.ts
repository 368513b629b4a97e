import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { ROOT } from './folders';
import { makeFormChecks } from './formChecks';
import { oneFile } from './oneFile.mjs';
import { Sentence } from './sentence';

/** Below this a compressed file is hardly smaller. */
const LEAST_TO_COMPRESS = 1000;
/** What the built application is made of. */
const SOURCES = ['web', 'core', 'schemas', 'service', 'store', 'package-lock.json', 'tsconfig.json'];
const BUILT = join(ROOT, 'web', '.next');
/** The program of the threads that reckon. */
export const THREADS = join(ROOT, '.cache', 'reckoningThread.mjs');

/** Builds the application, unless the one that is there was made of the very same sources. */
export async function buildIfChanged(): Promise<void> {
  const stampFile = join(ROOT, '.cache', 'build.sha256');
  const hash = createHash('sha256');
  for (const source of SOURCES) addToHash(hash, source);
  const stamp = hash.digest('hex');
  if (
    existsSync(join(BUILT, 'BUILD_ID')) &&
    existsSync(THREADS) &&
    existsSync(stampFile) &&
    readFileSync(stampFile, 'utf8') === stamp
  )
    return;

  console.error('Building the application (about a minute, only after a change) …');
  mkdirSync(join(ROOT, '.cache'), { recursive: true });
  rmSync(stampFile, { force: true });
  await makeFormChecks();
  const output: string[] = [];
  const status = await new Promise<number | null>((resolve) => {
    const env = { ...process.env, NODE_ENV: 'production' as const, NEXT_TELEMETRY_DISABLED: '1' };
    const child = spawn(process.execPath, [join(ROOT, 'node_modules', 'next', 'dist', 'bin', 'next'), 'build', 'web'], {
      cwd: ROOT,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text: Buffer) => output.push(text.toString()));
    child.once('exit', resolve);
  });
  if (status !== 0) {
    const text = output.join('');
    if (/ENOSPC|no space left/i.test(text))
      throw new Sentence('The disk is full: the application could not be built; free some space and start again.');
    throw new Sentence(`The application could not be built:\n${text.trim()}`);
  }
  await oneFile(ROOT, join(ROOT, 'service', 'bench', 'reckoningThread.ts'), THREADS);
  compressParts(join(BUILT, 'static'));
  writeFileSync(stampFile, stamp);
}

/** Beside every text of a size that pays, the same compressed as far as it goes: a first visit waits for these. */
function compressParts(folder: string): void {
  for (const name of readdirSync(folder, { recursive: true }) as string[]) {
    if (!/\.(js|css|svg|json|wasm|txt)$/.test(name)) continue;
    const text = readFileSync(join(folder, name));
    if (text.length < LEAST_TO_COMPRESS) continue;
    writeFileSync(
      join(folder, `${name}.br`),
      brotliCompressSync(text, { params: { [constants.BROTLI_PARAM_SIZE_HINT]: text.length } }),
    );
    writeFileSync(join(folder, `${name}.gz`), gzipSync(text, { level: 9 }));
  }
}

function addToHash(hash: ReturnType<typeof createHash>, path: string): void {
  const full = join(ROOT, path);
  if (!statSync(full).isDirectory()) {
    hash.update(path).update('\0').update(readFileSync(full));
    return;
  }
  for (const name of readdirSync(full).sort()) {
    if (name.startsWith('.') || name === 'next-env.d.ts' || /\.test\.tsx?$/.test(name)) continue;
    addToHash(hash, join(path, name));
  }
}
