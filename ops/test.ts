import { spawnSync } from 'node:child_process';
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
      'ops',
      'e2e',
      'bench',
    ],
  ],
];

const PROJECTS = ['unit', 'store', 'e2e'] as const;
type Project = (typeof PROJECTS)[number];

interface Count {
  passed: number;
  failed: number;
}

const count: Count = { passed: 0, failed: 0 };
const args = process.argv.slice(2);
const asked = PROJECTS.filter((project) => args.includes(project));
const patterns = args.filter((arg) => !(PROJECTS as readonly string[]).includes(arg));
const projects: readonly Project[] = asked.length > 0 ? asked : PROJECTS;
const isWhole = args.length === 0;

function run(script: readonly string[], env: NodeJS.ProcessEnv = process.env): boolean {
  const [path, ...rest] = script;
  return (
    spawnSync(process.execPath, [join(ROOT, 'node_modules', path as string), ...rest], {
      cwd: ROOT,
      stdio: 'inherit',
      env,
    }).status === 0
  );
}

function check(name: string, command: readonly string[]): void {
  const isRight = run(command);
  console.error(`${isRight ? 'passed' : 'FAILED'}: ${name}`);
  count[isRight ? 'passed' : 'failed']++;
}

function test(project: Project, env: NodeJS.ProcessEnv, folder: string): void {
  const report = join(folder, `${project}.json`);
  const options = ['--experimental-vm-modules', '--no-warnings'];
  const child = spawnSync(
    process.execPath,
    [
      ...options,
      join(ROOT, 'node_modules', 'jest', 'bin', 'jest.js'),
      '--selectProjects',
      project,
      '--json',
      `--outputFile=${report}`,
      '--passWithNoTests=false',
      // A failed test may leave behind what would keep Jest from ever ending.
      '--forceExit',
      `--maxWorkers=${String(availableParallelism())}`,
      ...patterns,
    ],
    { cwd: ROOT, stdio: ['ignore', 'ignore', 'inherit'], env },
  );
  try {
    const result = JSON.parse(readFileSync(report, 'utf8')) as {
      numPassedTests: number;
      numFailedTests: number;
      numRuntimeErrorTestSuites: number;
    };
    count.passed += result.numPassedTests;
    count.failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
    if (child.status !== 0 && result.numFailedTests + result.numRuntimeErrorTestSuites === 0) count.failed++;
  } catch {
    count.failed++;
  }
}

// A folder of its own: tests never see the user's data.
const folder = mkdtempSync(join(tmpdir(), 'patient-shelf-test-'));
chmodSync(folder, 0o711);
process.env['PATIENT_SHELF_DATA'] = join(folder, 'data');
delete process.env['DATABASE_URL'];
delete process.env['SHELF_ENTRY_KEY'];
let cluster: Cluster | undefined;
try {
  if (isWhole) for (const [name, command] of CHECKS) check(name, command);
  if (projects.includes('unit')) test('unit', process.env, folder);
  if (projects.includes('store')) {
    const data = openDataFolder();
    cluster = await startCluster(data, openSecrets(data));
    const urls = Object.fromEntries(
      (['postgres', 'patient_shelf_owner', 'patient_shelf_app'] as const).map((role) => [
        role,
        cluster?.url(role, 'DATABASE'),
      ]),
    );
    test('store', { ...process.env, SHELF_TEST_URLS: JSON.stringify(urls) }, folder);
    await cluster.stop();
  }
  if (projects.includes('e2e')) {
    chromium();
    await buildIfChanged();
    test('e2e', { ...process.env, SHELF_TEST_FOLDER: folder }, folder);
  }
} catch (error) {
  explain(error);
  count.failed++;
} finally {
  await cluster?.stop();
  rmSync(folder, { recursive: true, force: true });
}
console.log(`${String(count.passed)} passed, ${String(count.failed)} failed`);
process.exit(count.failed === 0 ? 0 : 1);
