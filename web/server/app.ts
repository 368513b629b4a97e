import 'server-only';
import { openApp, type App } from '~/service/app';

const held = globalThis as typeof globalThis & { patientShelf?: App };

/** The application's services, opened once a process. */
export function app(): App {
  held.patientShelf ??= openApp({
    databaseUrl: setting('SHELF_DATABASE_URL'),
    secret: setting('SHELF_SECRET'),
    baseUrl: setting('SHELF_BASE_URL'),
    root: setting('SHELF_ROOT'),
    threads: setting('SHELF_THREADS'),
  });
  return held.patientShelf;
}

function setting(name: string): string {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set: the application is started by bin/start.`);
  return value;
}
