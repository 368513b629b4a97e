import { build, stop } from 'esbuild';

/** Packages that read files of their own, or are not needed most of the time. */
const APART = ['esbuild', 'pg-native', 'pino', 'piscina'];
/** What older packages expect to be there. */
const REQUIRE = "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);";

/** Makes one file of a program of ours and of all it imports: hundreds of small ones take seconds to load. */
export async function oneFile(root, entry, outfile) {
  await build({
    entryPoints: [entry],
    outfile,
    bundle: true,
    external: APART,
    banner: { js: REQUIRE },
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'silent',
    absWorkingDir: root,
  });
  // What bundles is a process of its own, and would hold hundreds of megabytes for as long as this one lives.
  await stop();
}
