import { BayName, bayShort } from '../unit/bayName';
import type { Sickness } from '../driveLife/sickness';
import { figuresOf, type Media } from '../drive/media';
import type { SizeBasis } from '../drive/readSize';
import { factsOf } from '../layout/scheme';
import { compareBays } from '../quantity/bayOrder';
import { fullMarginOfPool, isDown } from '../unit/margin';
import { neededBytes } from '../unit/neededBytes';
import { poolOfDrive, type DriveInUnit, type Place, type Pool, type UnitState } from '../unit/state';

/** A drive that stands ready in a drawer. */
export interface DrawerDrive {
  readonly serial: string;
  readonly bytes: number;
  readonly basis: SizeBasis;
  readonly media?: Media;
  readonly form?: '3.5-inch' | '2.5-inch' | 'm2';
  readonly place: Pick<Place, 'site' | 'room'> & { readonly drawer: string };
  /** What speaks against it: it is no spare before a test has found it well. */
  readonly sick?: Sickness;
}

/** What a drive must be to stand in for a member. */
export interface SpareDemand {
  readonly neededBytes: number;
  readonly media: Media;
  /** In a pool with parity a shingled drive is no spare. */
  readonly isGuarded: boolean;
  readonly bayKinds: readonly ('3.5-inch' | '2.5-inch' | 'm2')[];
  readonly place: Pick<Place, 'site' | 'room'>;
}

/** How far a spare is from where it is needed. */
export type Reach = 'in-unit' | 'same-room' | 'same-site' | 'other-site';

export interface SpareThatFits {
  readonly serial: string;
  readonly bytes: number;
  readonly reach: Reach;
  /** Where it lies; `null` for a spare in the unit itself. */
  readonly place: DrawerDrive['place'] | null;
  /** Its size is only known from its label: read the exact bytes before relying on it. */
  readonly sizeUncertain: boolean;
}

export interface BayCover {
  readonly unit: string;
  readonly bay: string;
  /** The bay as its unit counts it. */
  readonly place: string;
  readonly serial: string;
  readonly neededBytes: number;
  /** Nearest first, the smallest that fits before a larger one. Empty: nothing covers this bay. */
  readonly spares: readonly SpareThatFits[];
}

const NEAREST: readonly Reach[] = ['in-unit', 'same-room', 'same-site', 'other-site'];

/** What a drive must be to stand in for this one: bytes, kind, form, and where it is needed. */
export function demandOf(unit: UnitState, { serial, media = 'hard-disk' }: DriveInUnit, pool: Pool): SpareDemand {
  const { site, room } = unit.place;
  return {
    neededBytes: neededBytes(unit, serial),
    media,
    isGuarded: (factsOf(pool.scheme).redundancy ?? 0) > 0,
    bayKinds: unit.profile.bays.kinds,
    place: { site, room },
  };
}

/** Found well where it had been sick; byte for byte and kind for kind: flash never stands in for a disk, nor a shingled drive inside a parity pool. */
export function isFitting(
  demand: SpareDemand,
  {
    bytes,
    media = 'hard-disk',
    form,
    sick,
  }: Pick<DrawerDrive, 'bytes' | 'media' | 'form'> & { readonly sick?: unknown },
): boolean {
  if (isSick(sick)) return false;
  if (bytes < demand.neededBytes) return false;
  if (media === 'shingled' && demand.isGuarded) return false;
  const kind = (of: Media): string => (of === 'shingled' ? 'hard-disk' : of);
  if (kind(media) !== kind(demand.media)) return false;
  return (form === undefined ? figuresOf(media).fits : [form]).some((one) => demand.bayKinds.includes(one));
}

/** A drive of a unit carries the word alone; one in a drawer what is known of it. */
function isSick(sick: unknown): boolean {
  return sick !== undefined && (sick as Partial<Sickness>).isTestedWell !== true;
}

/** How far away a drive lies from where it is needed. */
export function reachOf(needed: Pick<Place, 'site' | 'room'>, lies: Pick<Place, 'site' | 'room'>): Reach {
  if (needed.site !== lies.site) return 'other-site';
  return needed.room === lies.room ? 'same-room' : 'same-site';
}

interface Member {
  readonly drive: DriveInUnit;
  readonly demand: SpareDemand;
  readonly inUnit: readonly DriveInUnit[];
}

/** The members of a unit's pools with what would stand in for each, and the spares in the unit that do. */
function membersToCover(unit: UnitState): Member[] {
  return Object.values(unit.drives).flatMap((drive): Member[] => {
    const pool = poolOfDrive(unit, drive.serial);
    if (drive.bay === null || !pool || pool.spares.includes(drive.serial) || !hasToRebuildFrom(pool)) return [];
    const demand = demandOf(unit, drive, pool);
    const inUnit = pool.spares
      .flatMap((serial) => unit.drives[serial] ?? [])
      .filter((spare) => spare.bay !== null && spare.condition === 'well' && isFitting(demand, spare));
    return [{ drive, demand, inUnit }];
  });
}

/** A pool without protection, or one that has lost more than it may, has nothing to rebuild a spare from. */
function hasToRebuildFrom(pool: Pool): boolean {
  return fullMarginOfPool(pool) > 0 && !isDown(pool);
}

/** The drives in drawers that really fit, the nearest first, and of those as near the smallest. */
export function fittingInDrawers(demand: SpareDemand, drawers: readonly DrawerDrive[]): SpareThatFits[] {
  return drawers
    .filter((spare) => isFitting(demand, spare))
    .map(({ serial, bytes, place, basis }): SpareThatFits => ({
      serial,
      bytes,
      reach: reachOf(demand.place, place),
      place,
      sizeUncertain: basis !== 'exact',
    }))
    .sort(nearerAndSmaller);
}

function nearerAndSmaller(a: SpareThatFits, b: SpareThatFits): number {
  return NEAREST.indexOf(a.reach) - NEAREST.indexOf(b.reach) || a.bytes - b.bytes || (a.serial < b.serial ? -1 : 1);
}

/** For every member of every pool: which spare really fits, and how far away it is. */
export function spareCoverage(
  units: readonly { readonly id: string; readonly state: UnitState }[],
  drawers: readonly DrawerDrive[],
): BayCover[] {
  return units.flatMap(({ id, state }) =>
    membersToCover(state)
      .map(({ drive, demand, inUnit }): BayCover => {
        const near = inUnit.map(({ serial, bytes, basis }): SpareThatFits => ({
          serial,
          bytes,
          reach: 'in-unit',
          place: null,
          sizeUncertain: basis !== 'exact',
        }));
        const spares = [...near.sort(nearerAndSmaller), ...fittingInDrawers(demand, drawers)];
        return {
          unit: id,
          bay: drive.bay ?? '',
          place: BayName(state, drive.bay),
          serial: drive.serial,
          neededBytes: demand.neededBytes,
          spares,
        };
      })
      .sort((a, b) => compareBays(a.bay, b.bay)),
  );
}

/** A demand no spare in the unit meets, and the bays it is about. */
export interface OpenDemand {
  readonly demand: SpareDemand;
  readonly bays: readonly string[];
}

/** What a unit needs from the drawers: each distinct demand that no spare in the unit meets, with the bays it is about. */
export function openDemands(unit: UnitState): OpenDemand[] {
  const open = new Map<string, { demand: SpareDemand; bays: string[] }>();
  for (const { drive, demand, inUnit } of membersToCover(unit)) {
    if (inUnit.length > 0) continue;
    const key = JSON.stringify(demand);
    const same = open.get(key) ?? { demand, bays: [] };
    same.bays.push(bayShort(unit, drive.bay ?? ''));
    open.set(key, same);
  }
  return [...open.values()].map(({ demand, bays }) => ({ demand, bays: bays.sort(compareBays) }));
}
