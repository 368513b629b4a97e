import type { Database } from './database';

/** A backup of the shelf itself, written whole and read back. */
export interface BackupMade {
  readonly at: string;
  readonly bytes: number;
  readonly entries: number;
}

/** The last good one; `null` where none is known of. */
export async function lastBackup(db: Database): Promise<BackupMade | null> {
  const row = await db.selectFrom('backup_made').selectAll().orderBy('n', 'desc').limit(1).executeTakeFirst();
  return row ? { at: row.at.toISOString(), bytes: Number(row.bytes), entries: Number(row.entries) } : null;
}
