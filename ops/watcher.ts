import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdirSync, openSync } from 'node:fs';
import { join } from 'node:path';
import { openApp } from '../service/app';
import { whetherAlive } from '../service/tell/whetherAlive';
import { ROOT } from './folders';

/** How often it looks whether what it started does its work. */
const LOOKS_EVERY_MS = 30_000;
/** Before one that died is followed by another: ever longer for many. */
const [FIRST_WAIT_MS, MOST_WAIT_MS, STEADY_MS] = [500, 30_000, 60_000] as const;

interface Settings {
  readonly databaseUrl: string;
  readonly secret: string;
  readonly baseUrl: string;
  /** Where mail of units is handed in on this machine; none where it is left out. */
  readonly letterPort?: number | undefined;
}

/**
 * Keeps a process that listens to the units and tells people; one that dies is followed by another. One that lives and does
 * nothing is a message of its own.
 */
export function keepListening(folder: string, settings: Settings): { readonly stop: () => Promise<void> } {
  const app = openApp({ ...settings, root: ROOT });
  const log = join(folder, 'log', 'worker.log');
  const letterBox = join(folder, 'letters');
  mkdirSync(letterBox, { recursive: true, mode: 0o700 });
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
        SHELF_LETTER_BOX: letterBox,
        SHELF_LETTER_PORT: settings.letterPort === undefined ? '' : String(settings.letterPort),
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
        `What listens to the units and tells people ended by itself (${signal ?? `exit code ${String(code)}`}); another begins in ${String(waitMs / 1000)} s.`,
      );
      timer = setTimeout(begin, waitMs);
    });
  };
  begin();
  const look = whetherAlive(app);
  const looks = setInterval(() => {
    look().then(
      (troubles) => troubles.forEach((why) => console.error(why)),
      (error: unknown) =>
        console.error(`Whether units are listened to could not be looked at: ${(error as Error).message}`),
    );
  }, LOOKS_EVERY_MS);
  return {
    stop: async () => {
      stopping = true;
      clearTimeout(timer);
      clearInterval(looks);
      await app.db.destroy();
      const running = child;
      if (!running || running.exitCode !== null || running.signalCode !== null) return;
      const ended = new Promise((resolve) => running.once('exit', resolve));
      running.kill('SIGTERM');
      await ended;
    },
  };
}
