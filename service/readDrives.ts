import type { DriveCondition } from '../core/unit/state';
import { countDrives, drivesFrom, type ListedStandingDrive } from '../store/drives';
import type { App } from './app';

export interface DrivePage {
  readonly drives: readonly (ListedStandingDrive & { readonly condition: DriveCondition })[];
  readonly total: number;
}

/** Drives that stand in bays, by serial, a page at a time. */
export async function readDrives(app: App, from: number, most: number): Promise<DrivePage> {
  const [drives, total] = await Promise.all([drivesFrom(app.db, from, most), countDrives(app.db)]);
  return { drives: drives.map((drive) => ({ ...drive, condition: drive.condition as DriveCondition })), total };
}
