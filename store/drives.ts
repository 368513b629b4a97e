import type { Work } from './database';

/** A drive that stands in a bay, as lists across units show it. */
export interface StandingDrive {
  readonly serial: string;
  readonly unit: string;
  readonly bay: string;
  readonly bytes: number;
  readonly model: string | null;
  readonly condition: string;
  readonly pool: string | null;
  readonly role: 'member' | 'spare' | 'idle';
  readonly insertedAt: string;
}

export interface ListedStandingDrive extends StandingDrive {
  readonly unitName: string;
}

/** Writes a unit's drives anew; in the same transaction as the events that changed them. */
export async function replaceDrivesOf(work: Work, unit: string, drives: readonly StandingDrive[]): Promise<void> {
  await work.deleteFrom('drive_now').where('unit', '=', unit).execute();
  if (drives.length === 0) return;
  await work
    .insertInto('drive_now')
    .values(drives.map(({ insertedAt, ...drive }) => ({ ...drive, inserted_at: insertedAt })))
    .execute();
}

/** Where these serials stand now, outside the given unit. */
export async function standingElsewhere(work: Work, serials: readonly string[], unit: string): Promise<ListedStandingDrive | undefined> {
  if (serials.length === 0) return undefined;
  return (await listDrives(work).where('serial', 'in', serials).where('drive_now.unit', '!=', unit).limit(1).execute()).map(toDrive)[0];
}

function listDrives(work: Work) {
  return work
    .selectFrom('drive_now')
    .innerJoin('unit_now', 'unit_now.unit', 'drive_now.unit')
    .select(['serial', 'drive_now.unit', 'unit_now.name as unitName', 'bay', 'bytes', 'model', 'condition', 'pool', 'role', 'inserted_at']);
}

function toDrive({ inserted_at, bytes, role, ...row }: Awaited<ReturnType<ReturnType<typeof listDrives>['execute']>>[number]): ListedStandingDrive {
  return { ...row, role: role as StandingDrive['role'], bytes: Number(bytes), insertedAt: inserted_at.toISOString() };
}
