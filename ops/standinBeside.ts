import { type ChildProcess, spawn } from 'node:child_process';
import { createHmac } from 'node:crypto';
import { chmodSync, mkdirSync, openSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from './freePort';
import { ROOT } from './folders';
import type { Secrets } from './secrets';

/** Simulated units that stand beside the demo. */
export interface StandinBeside {
  readonly process: ChildProcess;
  readonly url: string;
  readonly password: string;
  readonly stop: () => Promise<void>;
}

/**
 * Starts the demo's simulated units, as they were when they were stopped.
 *
 * @param isFresh the demo has just been made: so are they
 * @returns `null` where they do not start; the demo goes on without
 */
export async function startStandin(folder: string, secrets: Secrets, isFresh: boolean): Promise<StandinBeside | null> {
  const home = join(folder, 'standin');
  mkdirSync(home, { recursive: true, mode: 0o700 });
  if (isFresh) rmSync(join(home, 'units.json'), { force: true });
  const password = createHmac('sha256', secrets.sessions).update('simulated units').digest('base64url');
  const log = join(folder, 'log', 'standin.log');
  const out = openSync(log, 'a', 0o600);
  chmodSync(log, 0o600);
  const port = await freePort();
  const child = spawn(
    process.execPath,
    [join(ROOT, 'ops', 'run.mjs'), 'standin', '--port', String(port), '--keep', home],
    {
      cwd: ROOT,
      env: { ...process.env, NODE_ENV: 'production', SHELF_STANDIN_PASSWORD: password },
      stdio: ['ignore', out, out, 'ipc'],
      detached: true,
    },
  );
  const isUp = await new Promise<boolean>((resolve) => {
    child.once('message', () => resolve(true));
    child.once('exit', () => resolve(false));
  });
  if (!isUp) {
    console.error(`The demo's simulated units did not start (see ${log}); everything else does.`);
    return null;
  }
  return {
    process: child,
    url: `https://127.0.0.1:${String(port)}`,
    password,
    stop: async () => {
      if (child.exitCode !== null || child.signalCode !== null) return;
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await ended;
    },
  };
}
