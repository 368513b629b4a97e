import { roleOf } from './roleOf';
import { frozen } from '../value/frozen';
import { BayName, trayOf } from './bayName';
import { standingOfUnit, type Standing } from './margin';
import { standingWords } from './standingWords';
import { cacheSlotsOf, poolsOf, driveInBay, type DriveCondition, type Place, type UnitState } from './state';

/** A bay as it is seen from the front. */
export interface BayInFront {
  readonly bay: string;
  /** The number its tray has in its enclosure, and the whole name of the bay. */
  readonly tray: string;
  readonly name: string;
  readonly serial?: string;
  readonly bytes?: number;
  readonly condition?: DriveCondition;
  readonly isSpare?: boolean;
  /** Of the rebuild onto the drive in it. */
  readonly percent?: number;
}

export interface EnclosureInFront {
  readonly name: string;
  readonly dial?: number;
  readonly isAway: boolean;
  readonly bays: readonly BayInFront[];
  /** Slots for cache, in the head of a family that has them. */
  readonly slots?: readonly BayInFront[];
}

/** A unit from the front: every enclosure with every bay. */
export interface UnitInFront {
  readonly name: string;
  readonly trays: 'upright' | 'flat';
  readonly enclosures: readonly EnclosureInFront[];
}

/** All a shelf shows of a unit, without the rest of its state. */
export interface UnitCard {
  readonly kind: 'unit-card';
  readonly name: string;
  readonly place: Place;
  readonly profileName: string;
  readonly standing: Standing;
  readonly words: string;
  readonly drives: number;
  readonly pools: readonly { readonly id: string; readonly shownBytes: number }[];
  readonly front: UnitInFront;
}

/**
 * The unit from the front: every bay, in the unit's own order, with the drive in it, its condition, and how far
 * (percent) a rebuild onto it is.
 */
export function frontOf(unit: UnitState): UnitInFront {
  const rebuilds = Object.values(unit.jobs).filter(({ task }) => task === 'rebuild' || task === 'replace');
  const seen = (bay: string): BayInFront => {
    const drive = driveInBay(unit, bay);
    const place = { bay, tray: trayOf(unit, bay)?.tray ?? bay, name: BayName(unit, bay) };
    if (!drive) return place;
    const { serial, bytes, condition } = drive;
    const job = rebuilds.find(({ onto }) => onto === serial);
    const isSpare = job === undefined && roleOf(unit, serial) === 'spare';
    return {
      ...place,
      serial,
      bytes,
      condition,
      ...(isSpare ? { isSpare } : {}),
      ...(job ? { percent: job.percent } : {}),
    };
  };
  const slots = cacheSlotsOf(unit).map(seen);
  return {
    name: unit.name,
    trays: unit.profile.bays.trays,
    enclosures: unit.enclosures.map(({ name, dial, bays }, i) => ({
      name,
      ...(dial === undefined ? {} : { dial }),
      isAway: unit.away.includes(name),
      bays: bays.map(seen),
      ...(i === 0 && slots.length > 0 ? { slots } : {}),
    })),
  };
}

/** The unit as the shelf draws it, small enough to be kept beside its state. */
export function cardOf(unit: UnitState): UnitCard {
  const standing = standingOfUnit(unit);
  return frozen({
    kind: 'unit-card',
    name: unit.name,
    place: unit.place,
    profileName: unit.profile.name,
    standing,
    words: standingWords(unit, standing),
    drives: Object.values(unit.drives).filter(({ bay }) => bay !== null).length,
    pools: poolsOf(unit).map(({ id, shownBytes }) => ({ id, shownBytes })),
    front: frontOf(unit),
  });
}
