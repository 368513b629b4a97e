import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildIfChanged } from './build';
import { startCluster, type Cluster } from './cluster';
import { openDataFolder, ROOT } from './folders';
import { chromium } from './packages';
import { openSecrets } from './secrets';
import { explain } from './sentence';

/** Checks that are one command each, and count as one test each. */
const CHECKS: readonly (readonly [name: string, command: readonly string[]])[] = [
  ['types', ['typescript/bin/tsc', '--noEmit', '-p', '.']],
  ['types of the service worker', ['typescript/bin/tsc', '--noEmit', '-p', 'web/offline']],
  ['style', ['eslint/bin/eslint.js', '--max-warnings', '0', '.']],
  ['answers', ['tsx/dist/cli.mjs', 'ops/answers.ts', '--check']],
  ['format', ['prettier/bin/prettier.cjs', '--check', '.']],
  [
    'who imports whom',
    [
      'dependency-cruiser/bin/dependency-cruise.mjs',
      'core',
      'schemas',
      'store',
      'service',
      'web',
      'demo',
      'standin',
      'ops',
      'e2e',
      'bench',
    ],
  ],
];

const PROJECTS = ['unit', 'store', 'e2e'] as const;

const count = { passed: 0, failed: 0 };
const args = process.argv.slice(2);
const asked = PROJECTS.filter((project) => args.includes(project));
const patterns = args.filter((arg) => !(PROJECTS as readonly string[]).includes(arg));
const projects = asked.length > 0 ? asked : PROJECTS;
const isWhole = args.length === 0;

interface Ended {
  readonly isRight: boolean;
  readonly output: string;
}

/** A script of a package, to its end; what it prints is kept, unless it is to be seen as it comes. */
function run(
  [path = '', ...rest]: readonly string[],
  {
    options = [],
    isSeen = false,
    env = process.env,
  }: { options?: string[]; isSeen?: boolean; env?: NodeJS.ProcessEnv },
): Promise<Ended> {
  const child = spawn(process.execPath, [...options, join(ROOT, 'node_modules', path), ...rest], {
    cwd: ROOT,
    stdio: isSeen ? ['ignore', 'ignore', 'inherit'] : ['ignore', 'pipe', 'pipe'],
    env,
  });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (part: Buffer) => (output += part.toString()));
  return new Promise((resolve) => child.once('close', (code) => resolve({ isRight: code === 0, output })));
}

async function check(name: string, command: readonly string[]): Promise<void> {
  const began = Date.now();
  const { isRight, output } = await run(command, {});
  if (!isRight) console.error(output.trim());
  console.error(`${isRight ? 'passed' : 'FAILED'}: ${name}, ${String(Math.round((Date.now() - began) / 1000))} s`);
  count[isRight ? 'passed' : 'failed']++;
}

async function checkAll(): Promise<void> {
  for (const [name, command] of CHECKS) await check(name, command);
}

/** All projects in one run: while a long file of one ends, files of another are done beside it. */
async function test(env: NodeJS.ProcessEnv, folder: string): Promise<void> {
  const report = join(folder, 'report.json');
  const { isRight } = await run(
    [
      'jest/bin/jest.js',
      '--selectProjects',
      ...projects,
      '--json',
      `--outputFile=${report}`,
      '--passWithNoTests=false',
      // A failed test may leave behind what would keep Jest from ever ending.
      '--forceExit',
      `--maxWorkers=${String(availableParallelism())}`,
      ...(patterns.length > 0 ? ['--testPathPatterns', ...patterns] : []),
    ],
    { options: ['--experimental-vm-modules', '--no-warnings'], isSeen: true, env },
  );
  const result = JSON.parse(readFileSync(report, 'utf8')) as {
    numPassedTests: number;
    numFailedTests: number;
    numRuntimeErrorTestSuites: number;
  };
  const failed = result.numFailedTests + result.numRuntimeErrorTestSuites;
  count.passed += result.numPassedTests;
  count.failed += failed === 0 && !isRight ? 1 : failed;
}

// A folder of its own: tests never see the user's data.
const folder = mkdtempSync(join(tmpdir(), 'patient-shelf-test-'));
chmodSync(folder, 0o711);
process.env['PATIENT_SHELF_DATA'] = join(folder, 'data');
delete process.env['DATABASE_URL'];
delete process.env['SHELF_ENTRY_KEY'];
let cluster: Cluster | undefined;

/** What the projects need: a database, a browser, the application as it is delivered. */
async function prepared(): Promise<NodeJS.ProcessEnv> {
  const env: NodeJS.ProcessEnv = { ...process.env, SHELF_TEST_FOLDER: folder };
  if (projects.includes('e2e')) {
    chromium();
    await buildIfChanged();
  }
  if (!projects.includes('store')) return env;
  const data = openDataFolder();
  cluster = await startCluster(data, openSecrets(data));
  const urls = Object.fromEntries(
    (['postgres', 'patient_shelf_owner', 'patient_shelf_app'] as const).map((role) => [
      role,
      cluster?.url(role, 'DATABASE'),
    ]),
  );
  return { ...env, SHELF_TEST_URLS: JSON.stringify(urls) };
}

try {
  const [env] = await Promise.all([prepared(), isWhole ? checkAll() : null]);
  await test(env, folder);
} catch (error) {
  explain(error);
  count.failed++;
} finally {
  await cluster?.stop();
  rmSync(folder, { recursive: true, force: true });
}
console.log(`${String(count.passed)} passed, ${String(count.failed)} failed`);
process.exit(count.failed === 0 ? 0 : 1);
