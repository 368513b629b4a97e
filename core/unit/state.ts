import { membersOfBands } from '../pool/builtPool';
import type { Band } from '../layout/band';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import type { Media } from '../drive/media';
import type { SizeBasis } from '../drive/readSize';
import type { Check, Part, TASKS, UnitDetails } from '../../schemas/unitEvent';
import type { PlanJob } from '../../schemas/plan';
import type { Pace } from '../rebuild/paces';
import type { StockLine } from '../move/stock';
import { entryOf } from '../value/entryOf';

export interface Place {
  readonly site: string;
  readonly room: string;
  readonly shelf?: string;
}

/** One box of a unit: the head, or an extension cabled to it. */
export interface Enclosure {
  readonly name: string;
  readonly bays: readonly string[];
  /** The number on its dial. */
  readonly dial?: number;
}

/**
 * `well`; `suspected`: showing signs, still working; `out-of-service`: taken out by hand, still in its bay;
 * `failed`: dead; `removed`: no longer in the unit (kept in the state while a pool still counts it as a member).
 */
export type DriveCondition = 'well' | 'suspected' | 'out-of-service' | 'failed' | 'removed';

/** A pool of another unit whose data a carried drive holds. */
export interface CarriedPool {
  readonly unit: string;
  readonly unitName: string;
  readonly pool: string;
  readonly name: string;
}

export interface DriveInUnit {
  readonly kind: 'drive-in-unit';
  /** What it goes by. */
  readonly serial: string;
  /** The serial as it is printed, where that differs. */
  readonly printed?: string;
  /** Where it stands; `null` once it has been taken out. */
  readonly bay: string | null;
  readonly bytes: number;
  readonly basis: SizeBasis;
  readonly label?: string;
  readonly model?: string;
  readonly media?: Media;
  readonly priceCents?: number;
  readonly form?: '3.5-inch' | '2.5-inch' | 'm2';
  readonly lot?: string;
  readonly boughtOn?: string;
  readonly warrantyUntil?: string;
  readonly condition: DriveCondition;
  /** The sign or the failure, in the words of whoever recorded it. */
  readonly note?: string;
  /** It showed signs or failed, and was not found well since: that stays with it, out of service and out of its bay. */
  readonly sick?: 'signs' | 'failed';
  /** It came from another unit with a pool that has not arrived yet: nothing else is made of it. */
  readonly carries?: CarriedPool;
  /** A member that came out and was put in again: whether it is whole is for its own ledger to say. Until it is rebuilt. */
  readonly backIn?: true;
  readonly insertedAt: string;
  /** It stood there when its unit was written down: since when it has nobody knows. */
  readonly foundThere?: true;
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
  /** `null` where it was there before anybody wrote it down, and nobody knows. */
  readonly builtAt: string | null;
  /** Set when it came whole: from another unit, or (`null`) as it was found. */
  readonly arrivedFrom?: string | null;
  /** Members that failed, left or were taken out of service and are not restored yet. */
  readonly missing: readonly string[];
  /**
   * Members without which more is missing than it survives: it has stopped, or what was on them is out of reach. Emptied
   * only by a new pool, or when the unit is recorded to have taken the members back with their data.
   */
  readonly lost: readonly string[];
  /** Set while the unit says that it does not serve it, whatever the members are. */
  readonly stopped?: Told;
  /** Set once somebody has stated that its data is lost. */
  readonly gone?: Told;
  /** Set until its first build is done, where the family does not protect it before: it can lose none so long. */
  readonly building?: true;
}

/** When something was said, and in which words. */
export interface Told {
  readonly at: string;
  readonly note?: string;
}

export type JobTask = (typeof TASKS)[number];

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
  /** What was read of it, oldest first; the newest {@link MOST_REPORTS}. */
  readonly reports: readonly ProgressReport[];
}

export const MOST_REPORTS = 400;

/** How far the unit says a job is. */
export interface ProgressReport {
  readonly at: string;
  readonly percent: number;
  /** The band it is about, where a family counts each band from 0 to 100. */
  readonly band?: number;
}

export interface Volume {
  readonly id: string;
  readonly pool: string;
  readonly name: string;
  readonly bytes: number;
  /** Shown larger than what is behind it, and filled as it is written. */
  readonly thin: boolean;
  readonly fileSystem?: string;
  readonly checksums?: boolean;
}

/** A lamp, a beep, a smell: something seen on the unit that is not settled yet. */
export interface Sign {
  readonly note: string;
  readonly lamp?: string;
  readonly bay?: string;
  readonly since: string;
}

export interface LostPart {
  readonly part: Part;
  readonly name: string;
  readonly note?: string;
  readonly since: string;
}

/** Where a data set is kept once more. A mirror repeats deletions: it is no backup. */
export interface Copy {
  readonly id: string;
  readonly where: string;
  readonly keeps: 'versions' | 'mirror';
  readonly offSite: boolean;
  /** How often it is meant to run. */
  readonly everyDays?: number;
  readonly freeBytes?: number;
  readonly describedAt: string;
  readonly ranAt?: string;
  /** Set while it has failed and not run since. */
  readonly failedAt?: string;
  /** The unit and the pool on the shelf it stands on, where it does. */
  readonly on?: { readonly unit: string; readonly pool: string };
  /** When it was last compared with what it is a copy of, and was the same. */
  readonly sameAt?: string;
  /** When a restore was last tried, and whether it worked. */
  readonly restoreTriedAt?: string;
  readonly restoreWorked?: boolean;
}

export interface DataSet {
  readonly id: string;
  readonly name: string;
  readonly pool?: string;
  readonly bytes?: number;
  readonly copies: Readonly<Record<string, Copy>>;
}

/** Something to do again and again. */
export interface UpkeepTask {
  readonly id: string;
  readonly title: string;
  readonly every: number;
  readonly unit: 'day' | 'week' | 'month' | 'year' | 'once';
  /** The first day it is due. */
  readonly from: string;
}

export interface SpeedMeasured {
  readonly readBytesPerSecond: number;
  readonly writeBytesPerSecond: number;
  readonly at: string;
}

/** A plan that is under way and acts on this unit, as far as the shelf needs it; the rest stands in the plan's own ledger. */
export interface PlanHere {
  readonly id: string;
  readonly job: PlanJob;
  readonly title: string;
  /** The members it replaces. */
  readonly serials: readonly string[];
  /** The unit a plan over two is led from, where that is the other. */
  readonly ledFrom?: string;
  /** Steps it has, and how many of them are done or left out. */
  readonly of: number;
  readonly done: number;
  readonly startedAt: string;
  /** Set while it rests or waits for another pair of hands, with the words left for them. */
  readonly paused?: { readonly at: string; readonly note: string };
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
  /** Drives that are cache of the unit: in no pool, and in no other use. */
  readonly cache: readonly string[];
  /** What the cache holds: only what was read, or what was written and has not reached the pool too. Left out where nobody said. */
  readonly cacheHolds?: CacheHolds;
  readonly registeredAt: string;
  readonly details: UnitDetails;
  readonly power: 'on' | 'off';
  /** Enclosures that have dropped out, by name. */
  readonly away: readonly string[];
  readonly parts: readonly LostPart[];
  readonly signs: readonly Sign[];
  readonly counted: {
    readonly seen: number;
    readonly expected: number;
    readonly at: string;
    readonly enclosure?: string;
  } | null;
  readonly roundAt: string | null;
  readonly volumes: Readonly<Record<string, Volume>>;
  readonly dataSets: Readonly<Record<string, DataSet>>;
  /** When each check was last confirmed. */
  readonly confirmed: Readonly<Partial<Record<Check, string>>>;
  readonly firmwareAt: string | null;
  /** How much longer its finished work took than was reckoned, the newest last. */
  readonly paces?: readonly Pace[];
  /** Work of a pool, by its id, that last ended by being done, and was not stopped or begun again since. */
  readonly workDone?: Readonly<Record<string, readonly JobTask[]>>;
  readonly speed: { readonly baseline: SpeedMeasured | null; readonly last: SpeedMeasured | null };
  readonly upkeep: Readonly<Record<string, UpkeepTask>>;
  readonly upkeepDone: Readonly<Record<string, string>>;
  /** Plans under way. */
  readonly plans: Readonly<Record<string, PlanHere>>;
  /** Set while its data is at home in another unit, and what is left here is a copy of it. */
  /** When its last pool left it whole, carried to another. */
  readonly leftAt?: string;
  readonly movedTo?: { readonly unit: string; readonly at: string };
  /** Set once it is out of use: it stands on no shelf any more, and its history stays. */
  readonly retired?: { readonly at: string; readonly note?: string };
  /** What it does for people, as it was written down last. */
  readonly stock?: { readonly at: string; readonly lines: readonly StockLine[] };
  /** Set while its drives are carried to another unit: it is off, and a member out of its bay is not missing. */
  readonly packed?: Packed;
}

export type CacheHolds = 'reads' | 'writes';

export interface Packed {
  /** The unit they are carried to. */
  readonly to: string;
  readonly at: string;
  /** The bay each drive stood in, by serial: where it goes back to. */
  readonly bays: Readonly<Record<string, string>>;
}

/** All bays of a unit by their keys, enclosure after enclosure as cabled. */
export function baysOf(unit: UnitState): string[] {
  return unit.enclosures.flatMap(({ bays }) => bays);
}

/** Slots for cache in the head, by name, beside its bays: no member of a pool stands in one. */
export function cacheSlotsOf({ profile }: Pick<UnitState, 'profile'>): string[] {
  return cacheSlots(profile.bays);
}

/** The slots for cache that a family's units have; none where nobody said. */
export function cacheSlots(bays: Partial<Pick<Profile['bays'], 'cacheSlots'>> | undefined): string[] {
  return Array.from({ length: bays?.cacheSlots ?? 0 }, (_, i) => `M${String(i + 1)}`);
}

/** Slots for cache that are empty, in their order. */
export function freeSlots(unit: UnitState): readonly string[] {
  return cacheSlotsOf(unit).filter((slot) => driveInBay(unit, slot) === undefined);
}

/** Every place of one box that a drive can stand in: its bays, and in the head the slots for cache. */
export function placesIn(unit: UnitState, enclosure: Enclosure): readonly string[] {
  return enclosure === unit.enclosures[0] ? [...enclosure.bays, ...cacheSlotsOf(unit)] : enclosure.bays;
}

/** Every place of a unit that a drive can stand in, box after box. */
export function placesOf(unit: UnitState): string[] {
  return unit.enclosures.flatMap((enclosure) => placesIn(unit, enclosure));
}

/** The drive that stands in a bay; `undefined` where it is empty or not there. */
export function driveInBay(unit: UnitState, bay: string): DriveInUnit | undefined {
  return Object.values(unit.drives).find((drive) => drive.bay === bay);
}

/** Bays a drive can be fitted in: empty, in a box that answers. In the unit's order. */
export function freeBays(unit: UnitState): readonly string[] {
  const taken = new Set(Object.values(unit.drives).map(({ bay }) => bay));
  return unit.enclosures
    .filter(({ name }) => !unit.away.includes(name))
    .flatMap(({ bays }) => bays)
    .filter((bay) => !taken.has(bay));
}

const byName = new Intl.Collator('en', { numeric: true });

/** The pools of a unit by their names: the order in which they are kept says nothing. */
export function poolsOf({ pools }: Pick<UnitState, 'pools'>): readonly Pool[] {
  return Object.values(pools).sort((a, b) => byName.compare(a.name, b.name) || (a.id < b.id ? -1 : 1));
}

/** The pool a drive is a member or a spare of; `undefined` where it is in none. */
export function poolOfDrive(unit: UnitState, serial: string): Pool | undefined {
  return Object.values(unit.pools).find((pool) => pool.spares.includes(serial) || membersOf(pool).includes(serial));
}

/** Who has a drive already, in words: a pool, one that is carried here, or the cache; `undefined` for one that is idle. */
export function ownerOf(unit: UnitState, serial: string): string | undefined {
  return (
    poolOfDrive(unit, serial)?.name ??
    carriedWords(entryOf(unit.drives, serial)?.carries) ??
    (unit.cache.includes(serial) ? 'the cache' : undefined)
  );
}

/** "Papers of Heron, on its way". */
export function carriedWords(carries: CarriedPool | undefined): string | undefined {
  return carries && `${carries.name} of ${carries.unitName}, on its way`;
}

/** The serials of a pool's members, each once; spares are none. */
export function membersOf(pool: Pick<Pool, 'bands'>): string[] {
  return membersOfBands(pool.bands);
}

/** How many drives the unit's own page ought to show: those in bays that have not failed, of enclosures that are there. */
export function drivesExpected(unit: UnitState, enclosure?: string): number {
  const there = unit.enclosures.filter(
    ({ name }) => !unit.away.includes(name) && (enclosure === undefined || name === enclosure),
  );
  const bays = new Set(there.flatMap((box) => box.bays));
  return Object.values(unit.drives).filter(
    ({ bay, condition }) => bay !== null && condition !== 'failed' && bays.has(bay),
  ).length;
}
