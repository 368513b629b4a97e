import type { DriveRole } from '../core/unit/roleOf';
import type { Transaction } from './database';

/** A drive that stands in a bay, as lists across units show it. */
export interface StandingDrive {
  readonly serial: string;
  readonly unit: string;
  readonly bay: string;
  readonly bytes: number;
  readonly model: string | null;
  readonly condition: string;
  readonly pool: string | null;
  readonly role: DriveRole;
  readonly insertedAt: string;
}

/** Forgets what stands in some units: before drives that moved between them are written where they are now. */
export async function forgetDrivesOf(tx: Transaction, units: readonly string[]): Promise<void> {
  if (units.length > 0) await tx.deleteFrom('drive_now').where('unit', 'in', units).execute();
}

/** Writes a unit's drives anew; in the same transaction as the events that changed them. */
export async function replaceDrivesOf(tx: Transaction, unit: string, drives: readonly StandingDrive[]): Promise<void> {
  await tx.deleteFrom('drive_now').where('unit', '=', unit).execute();
  if (drives.length === 0) return;
  await tx
    .insertInto('drive_now')
    .values(drives.map(({ insertedAt, ...drive }) => ({ ...drive, inserted_at: insertedAt })))
    .execute();
}
