import { statfs } from 'node:fs/promises';
import { lastBackup } from '../../store/backups';
import { SCHEMA } from '../../store/migrate';
import { canAnswer } from '../../store/organisation';
import { watchAtLarge } from '../../store/watches';
import type { App } from '../app';

/** How it is: what a watchdog asks, and whoever looks why nothing is stored any more. */
export interface Health {
  readonly status: 'ok' | 'failing';
  readonly database: 'ok' | 'not answering';
  readonly disk: 'ok' | 'full';
  readonly version: string;
  /** Of the checkout it runs from; `null` where that is none. */
  readonly commit: string | null;
  /** The last change of its tables it knows. */
  readonly schema: string;
  /** The last good backup of the shelf; `null` where none is known of. */
  readonly lastBackup: { readonly at: string; readonly bytes: number } | null;
  /** The units it asks, how many do not answer, and when a look last ended; `null` where the database does not say. */
  readonly watch: { readonly units: number; readonly silent: number; readonly lastEnded: string | null } | null;
}

/** Less than this is taken for full: an entry would find room, what the database does meanwhile may not. */
const LEAST_FREE_BYTES = 50e6;

/** @param folder on the disk that is written to */
export async function healthOf(
  app: App,
  folder: string,
  is: { readonly version: string; readonly commit: string },
): Promise<Health> {
  const [database, disk] = [
    (await canAnswer(app.db)) ? ('ok' as const) : ('not answering' as const),
    (await isRoomIn(folder)) ? ('ok' as const) : ('full' as const),
  ];
  const backup = database === 'ok' ? await lastBackup(app.db) : null;
  return {
    status: database === 'ok' && disk === 'ok' ? 'ok' : 'failing',
    database,
    disk,
    version: is.version,
    commit: is.commit === '' ? null : is.commit,
    schema: SCHEMA,
    lastBackup: backup && { at: backup.at, bytes: backup.bytes },
    watch: database === 'ok' ? await watchAtLarge(app.db) : null,
  };
}

async function isRoomIn(folder: string): Promise<boolean> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize >= LEAST_FREE_BYTES;
}

/** What the database (SQLSTATE 53100) or the system says when there is no room. */
export function isFullDisk(error: unknown): boolean {
  const { code, message } = error as { readonly code?: string; readonly message?: string };
  return code === '53100' || code === 'ENOSPC' || /no space left on device/i.test(message ?? '');
}
