/**
 * Runs one of these as the application runs what they measure: bundled, without what a development loader adds to every
 * function that is made.
 *
 * Run: node --import tsx bench/run.ts NAME [arguments]
 */
import { spawnSync } from 'node:child_process';
import { buildSync } from 'esbuild';

const [name = '', ...given] = process.argv.slice(2);
const outfile = `node_modules/.cache/bench/${name}.mjs`;
buildSync({
  entryPoints: [`bench/${name}.ts`],
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  outfile,
});
process.exitCode = spawnSync(process.execPath, [outfile, ...given], { stdio: 'inherit' }).status ?? 1;
