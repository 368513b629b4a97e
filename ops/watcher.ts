import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, openSync } from 'node:fs';
import { join } from 'node:path';
import { openDatabase } from '../store/database';
import { isAnybodyWatched } from '../store/watches';
import { ROOT } from './folders';

/** How often it looks whether any unit is watched at all: before that, nobody listens. */
const EVERY_MS = 2000;
/** Before one that died is followed by another: ever longer for many. */
const [FIRST_WAIT_MS, MOST_WAIT_MS, STEADY_MS] = [500, 30_000, 60_000] as const;

interface Settings {
  readonly databaseUrl: string;
  readonly secret: string;
  readonly baseUrl: string;
}

/** Keeps a process that listens to the units, from the moment on that one is watched; one that dies is followed by another. */
export function keepListening(folder: string, settings: Settings): { readonly stop: () => Promise<void> } {
  const db = openDatabase(settings.databaseUrl, 1);
  const log = join(folder, 'log', 'worker.log');
  let child: ChildProcess | undefined;
  let [stopping, died] = [false, 0];
  let timer: NodeJS.Timeout | undefined;

  const begin = (): void => {
    const out = openSync(log, 'a', 0o600);
    chmodSync(log, 0o600);
    const began = Date.now();
    child = spawn(process.execPath, [join(ROOT, 'ops', 'run.mjs'), 'worker'], {
      cwd: ROOT,
      env: {
        ...process.env,
        NODE_ENV: 'production',
        SHELF_DATABASE_URL: settings.databaseUrl,
        SHELF_SECRET: settings.secret,
        SHELF_BASE_URL: settings.baseUrl,
      },
      stdio: ['ignore', out, out, 'ipc'],
      detached: true,
    });
    child.once('exit', (code, signal) => {
      child = undefined;
      if (stopping) return;
      if (Date.now() - began > STEADY_MS) died = 0;
      const waitMs = Math.min(MOST_WAIT_MS, FIRST_WAIT_MS * 2 ** died++);
      console.error(
        `What listens to the units ended by itself (${signal ?? `exit code ${String(code)}`}); another begins in ${String(waitMs / 1000)} s.`,
      );
      timer = setTimeout(begin, waitMs);
    });
  };
  const wait = (): void => {
    timer = setTimeout(() => {
      isAnybodyWatched(db)
        .catch(() => false)
        .then((is) => (stopping ? undefined : is ? begin() : wait()))
        .catch(() => undefined);
    }, EVERY_MS);
  };
  wait();
  return {
    stop: async () => {
      stopping = true;
      clearTimeout(timer);
      await db.destroy();
      const running = child;
      if (!running || running.exitCode !== null || running.signalCode !== null) return;
      const ended = new Promise((resolve) => running.once('exit', resolve));
      running.kill('SIGTERM');
      await ended;
    },
  };
}
