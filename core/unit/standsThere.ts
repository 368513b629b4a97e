import { marginOf } from '../survival/marginOf';
import { bayName } from './bayName';
import { marginOfPool } from './margin';
import { marginWords } from './standingWords';
import { membersOf, poolOfDrive, type UnitState } from './state';
import { entryOf } from '../value/entryOf';

/** What a drive is to the unit it belongs to. */
export interface StandsThere {
  readonly unit: string;
  readonly unitName: string;
  /** The bay it stands in by the record; `null` while it is out and still counted on. */
  readonly bay: string | null;
  /** The bay as that unit counts it; where it is out, the one it had, if that is known. */
  readonly place: string | null;
  readonly role: 'member' | 'spare' | 'cache' | 'idle';
  readonly pool?: string;
  readonly poolName?: string;
  /** How many more members its pool may lose, by the record. */
  readonly margin?: number;
  /** The same once this one is out. */
  readonly marginWithout?: number;
  /** Its drives are being carried to another unit. */
  readonly isCarried: boolean;
}

/**
 * What a drive is to a unit that counts on it: which bay, which pool, and how many that pool can still lose with it and
 * without it.
 *
 * @returns `null` where it neither stands there nor is a member that is out
 */
export function standsThere(id: string, unit: UnitState, serial: string): StandsThere | null {
  const drive = entryOf(unit.drives, serial);
  if (!drive) return null;
  const pool = poolOfDrive(unit, serial);
  if (drive.bay === null && !pool) return null;
  const had = drive.bay ?? (unit.packed ? entryOf(unit.packed.bays, serial) : undefined) ?? null;
  const isMember = pool !== undefined && membersOf(pool).includes(serial);
  return Object.freeze({
    unit: id,
    unitName: unit.name,
    bay: drive.bay,
    place: had === null ? null : bayName(unit, had),
    role: isMember ? 'member' : pool ? 'spare' : unit.cache.includes(serial) ? 'cache' : 'idle',
    ...(pool
      ? {
          pool: pool.id,
          poolName: pool.name,
          margin: marginOfPool(pool),
          marginWithout: isMember
            ? Math.min(marginOfPool(pool), marginOf(pool.bands, new Set([...pool.missing, serial])))
            : marginOfPool(pool),
        }
      : {}),
    isCarried: unit.packed !== undefined,
  });
}

/** What that means for whoever has it in hand, and where it goes: before anything else. */
export function otherUnitWords(
  serial: string,
  { unitName, place, role, poolName = '', margin, marginWithout = 0, bay, isCarried }: StandsThere,
): { readonly sentence: string; readonly back: string } {
  const home = place === null ? unitName : `${place} of ${unitName}`;
  if (isCarried)
    return {
      sentence: `${serial} is carried over from ${unitName}, and holds a part of ${poolName || 'what is in it'}.`,
      back: 'It goes into no other unit: lay it back with the drives that came with it.',
    };
  if (bay === null)
    return {
      sentence: `${serial} is a member of ${poolName} in ${unitName} that is out: without it that pool ${marginWords(margin ?? 0)}.`,
      back: `Put it aside, marked “${unitName}”: nothing else is made of it.`,
    };
  const back = `Put it back into ${home} now, before anything else.`;
  if (role === 'member')
    return marginWithout < 0
      ? {
          sentence: `${serial} holds ${unitName} together: it stands in ${place ?? ''} there, and ${poolName} ${marginWords(margin ?? 0)}.`,
          back,
        }
      : {
          sentence: `${serial} is a working member of ${poolName} in ${home}: without it that pool ${marginWords(marginWithout)}.`,
          back,
        };
  return {
    sentence: `${serial} stands in ${home} by the record${role === 'spare' ? `, as a spare of ${poolName}` : role === 'cache' ? ', as its cache' : ', in no pool'}.`,
    back: `Put it back; or record at ${unitName} that it came out, then read it here again.`,
  };
}
