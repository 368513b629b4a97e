import type { Band } from '../layout/band';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import type { Media } from '../drive/media';
import type { SizeBasis } from '../drive/readSize';

export interface Place {
  readonly site: string;
  readonly room: string;
  readonly shelf?: string;
}

/** One box of a unit: the head, or an extension cabled to it. */
export interface Enclosure {
  readonly name: string;
  readonly bays: readonly string[];
}

/**
 * `well`; `suspected`: showing signs, still working; `out-of-service`: taken out by hand, still in its bay;
 * `failed`: dead; `removed`: no longer in the unit (kept in the state while a pool still counts it as a member).
 */
export type DriveCondition = 'well' | 'suspected' | 'out-of-service' | 'failed' | 'removed';

export interface DriveInUnit {
  readonly kind: 'drive-in-unit';
  readonly serial: string;
  /** Where it stands; `null` once it has been taken out. */
  readonly bay: string | null;
  readonly bytes: number;
  readonly basis: SizeBasis;
  readonly label?: string;
  readonly model?: string;
  readonly media?: Media;
  readonly priceCents?: number;
  readonly condition: DriveCondition;
  /** The sign or the failure, in the words of whoever recorded it. */
  readonly note?: string;
  readonly insertedAt: string;
}

export interface Pool {
  readonly kind: 'pool';
  readonly id: string;
  readonly name: string;
  readonly scheme: Scheme;
  readonly groupWidth?: number;
  /** As it was built and changed since: history, not what today's drives would make from scratch. Members by serial. */
  readonly bands: readonly Band[];
  readonly spares: readonly string[];
  readonly usableBytes: number;
  readonly shownBytes: number;
  readonly fileSystemReserveBytes: number;
  readonly builtAt: string;
  /** Members that failed, left or were taken out of service and are not restored yet. */
  readonly missing: readonly string[];
  /** Members whose loss took data with it: never emptied by anything short of a new pool. */
  readonly lost: readonly string[];
}

export type JobTask = 'first-build' | 'rebuild' | 'scrub';

export interface Job {
  readonly kind: 'job';
  readonly id: string;
  readonly task: JobTask;
  readonly pool: string;
  /** A rebuild: the member it takes over from, and the drive it writes. */
  readonly replaces?: string;
  readonly onto?: string;
  readonly percent: number;
  readonly startedAt: string;
  readonly heardAt: string;
}

/** Everything known of a unit at a moment: the fold of its events. */
export interface UnitState {
  readonly kind: 'unit';
  readonly name: string;
  readonly place: Place;
  readonly profile: Profile;
  readonly enclosures: readonly Enclosure[];
  readonly drives: Readonly<Record<string, DriveInUnit>>;
  readonly pools: Readonly<Record<string, Pool>>;
  readonly jobs: Readonly<Record<string, Job>>;
  readonly registeredAt: string;
}

export function baysOf(unit: UnitState): string[] {
  return unit.enclosures.flatMap(({ bays }) => bays);
}

export function driveInBay(unit: UnitState, bay: string): DriveInUnit | undefined {
  return Object.values(unit.drives).find((drive) => drive.bay === bay);
}

export function poolOfDrive(unit: UnitState, serial: string): Pool | undefined {
  return Object.values(unit.pools).find((pool) => pool.spares.includes(serial) || membersOf(pool).includes(serial));
}

export function membersOf(pool: Pool): string[] {
  return [...new Set(pool.bands.flatMap(({ members }) => members))];
}
