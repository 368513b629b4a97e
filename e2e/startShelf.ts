import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from '../ops/freePort';

/** A shelf started the way a person starts it, on a data folder of its own. */
export interface StartedShelf {
  readonly base: string;
  readonly port: number;
  /** The address that was printed. */
  readonly link: string;
  readonly output: () => string;
  readonly process: ChildProcess;
  /** Sends the signal and waits; the exit code, or the signal it died of. */
  readonly stop: (signal?: NodeJS.Signals) => Promise<number | NodeJS.Signals | null>;
}

export interface Ended {
  readonly code: number | null;
  readonly output: string;
}

export function newDataFolder(): { readonly path: string; readonly remove: () => void } {
  const path = mkdtempSync(join(process.env['SHELF_TEST_FOLDER'] ?? '/tmp', 'shelf-'));
  return { path, remove: () => rmSync(path, { recursive: true, force: true }) };
}

/** What a file has started and not yet stopped. */
const started = new Set<ChildProcess>();

/** Stops them. */
export async function endAllStarted(): Promise<void> {
  await Promise.all(
    [...started].map(
      (child) =>
        new Promise((resolve) => {
          child.once('exit', resolve);
          child.kill('SIGTERM');
        }),
    ),
  );
}

/**
 * A data folder as a demo leaves it that was started once and stopped: made by the first file that wants one, and copied by
 * every other.
 */
export async function demoDataFolder(): Promise<ReturnType<typeof newDataFolder>> {
  const template = join(process.env['SHELF_TEST_FOLDER'] ?? tmpdir(), 'demo-template');
  if (!existsSync(template)) {
    const first = newDataFolder();
    await (await startShelf({ data: first.path })).stop();
    try {
      renameSync(first.path, template);
    } catch (error) {
      // Two files of tests began at once, and the other was first.
      if (!existsSync(template)) throw error;
      first.remove();
    }
  }
  const data = newDataFolder();
  // Owners and modes are the database's.
  spawnSync('cp', ['-a', `${template}/.`, data.path]);
  return data;
}

interface Options {
  readonly data: string;
  readonly args?: readonly string[];
  readonly port?: number;
  readonly env?: Readonly<Record<string, string>>;
}

function launch({ data, args = ['--demo'], port, env = {} }: Options): { child: ChildProcess; output: () => string } {
  const child = spawn('bin/start', [...args, ...(port === undefined ? [] : ['--port', String(port)])], {
    // Simulated units only where a test wants them.
    env: { ...process.env, NODE_OPTIONS: '', PATIENT_SHELF_DATA: data, PATIENT_SHELF_STANDIN: 'off', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.add(child);
  child.once('exit', () => started.delete(child));
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Buffer) => (text += part.toString()));
  return { child, output: () => text };
}

/** Starts and waits for the printed address. */
export async function startShelf(options: Options): Promise<StartedShelf> {
  const port = options.port ?? (await freePort());
  const { child, output } = launch({ ...options, port });
  const link = await new Promise<string>((resolve, reject) => {
    const look = (): void => {
      const found = /^Open (\S+)$/m.exec(output())?.[1];
      if (found !== undefined) resolve(found);
    };
    child.stdout?.on('data', look);
    child.once('exit', () => reject(new Error(`bin/start ended: ${output()}`)));
  });
  return {
    base: `http://127.0.0.1:${String(port)}`,
    port,
    link,
    output,
    process: child,
    stop: (signal = 'SIGTERM') =>
      new Promise((resolve) => {
        if (child.exitCode !== null || child.signalCode !== null) resolve(child.exitCode ?? child.signalCode);
        else {
          child.once('exit', (code, by) => resolve(code ?? by));
          child.kill(signal);
        }
      }),
  };
}

/** Starts what is expected to end by itself. */
export function startAndEnd(options: Options): Promise<Ended> {
  const { child, output } = launch(options);
  return new Promise((resolve) => child.once('close', (code) => resolve({ code, output: output().trim() })));
}
