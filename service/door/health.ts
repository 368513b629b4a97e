import { statfs } from 'node:fs/promises';
import { canAnswer } from '../../store/organisation';
import type { App } from '../app';

/** How it is: what a watchdog asks, and whoever looks why nothing is stored any more. */
export interface Health {
  readonly status: 'ok' | 'failing';
  readonly database: 'ok' | 'not answering';
  readonly disk: 'ok' | 'full';
}

/** Less than this is taken for full: an entry would find room, what the database does meanwhile may not. */
const LEAST_FREE_BYTES = 50e6;

/** @param folder on the disk that is written to */
export async function healthOf(app: App, folder: string): Promise<Health> {
  const [database, disk] = [
    (await canAnswer(app.db)) ? ('ok' as const) : ('not answering' as const),
    (await isRoomIn(folder)) ? ('ok' as const) : ('full' as const),
  ];
  return { status: database === 'ok' && disk === 'ok' ? 'ok' : 'failing', database, disk };
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
