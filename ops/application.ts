import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, openSync } from 'node:fs';
import { join } from 'node:path';
import { THREADS } from './build';
import { whatThisIs } from './commit';
import { ROOT } from './folders';
import type { Reach } from './reach';
import { Sentence } from './sentence';

export interface Application {
  readonly process: ChildProcess;
  readonly stop: () => Promise<void>;
}

/** Starts the built application and waits until it listens. */
export async function startApplication(
  folder: string,
  { listen, port, url, tls, behindProxy, compress }: Reach,
  settings: { readonly databaseUrl: string; readonly secret: string },
): Promise<Application> {
  const log = join(folder, 'log', 'application.log');
  const out = openSync(log, 'a', 0o600);
  chmodSync(log, 0o600);
  const { version, commit } = whatThisIs(ROOT);
  const env = {
    ...process.env,
    NODE_ENV: 'production' as const,
    NEXT_TELEMETRY_DISABLED: '1',
    SHELF_PORT: String(port),
    SHELF_LISTEN: listen,
    SHELF_CERTIFICATE: tls?.certificate ?? '',
    SHELF_KEY: tls?.key ?? '',
    SHELF_BEHIND_PROXY: behindProxy ? 'yes' : '',
    SHELF_COMPRESS: compress ? 'on' : 'off',
    SHELF_WEB: join(ROOT, 'web'),
    SHELF_ROOT: ROOT,
    SHELF_DATA: folder,
    SHELF_VERSION: version,
    SHELF_COMMIT: commit,
    SHELF_THREADS: THREADS,
    SHELF_DATABASE_URL: settings.databaseUrl,
    SHELF_SECRET: settings.secret,
    SHELF_BASE_URL: url,
  };
  const child = spawn(process.execPath, [join(ROOT, 'ops', 'serve.mjs')], {
    cwd: ROOT,
    env,
    stdio: ['ignore', out, out, 'ipc'],
    detached: true,
  });
  await new Promise<void>((resolve, reject) => {
    child.once('message', (message: { kind: string; code?: string; message?: string }) => {
      if (message.kind === 'listening') resolve();
      else if (message.code === 'EADDRINUSE') reject(portTaken(port));
      else reject(new Sentence(`The application did not start: ${message.message ?? 'unknown reason'} (see ${log}).`));
    });
    child.once('exit', () => {
      reject(new Sentence(`The application did not start (see ${log}).`));
    });
  });
  return {
    process: child,
    stop: async () => {
      if (child.exitCode !== null || child.signalCode !== null) return;
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await ended;
    },
  };
}

export function portTaken(port: number): Sentence {
  return new Sentence(`Port ${String(port)} is taken by another program: choose one with --port N.`);
}
