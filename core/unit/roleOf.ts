import { entryOf } from '../value/entryOf';
import { carriedWords, poolOfDrive, type UnitState } from './state';

/** What a drive is for in its unit: a member or a spare of a pool, cache of the unit, or nothing yet. */
export type DriveRole = 'member' | 'spare' | 'cache' | 'idle';

/** What this drive is for here; `idle` for one that belongs to nothing, or is not here. */
export function roleOf(unit: UnitState, serial: string): DriveRole {
  const pool = poolOfDrive(unit, serial);
  if (pool) return pool.spares.includes(serial) ? 'spare' : 'member';
  return unit.cache.includes(serial) ? 'cache' : 'idle';
}

/** The same in words: "Office", "Office, as its spare", "cache of the unit", "no pool". */
export function roleWords(unit: UnitState, serial: string): string {
  const role = roleOf(unit, serial);
  if (role === 'cache') return 'cache of the unit';
  const pool = poolOfDrive(unit, serial);
  return pool
    ? `${pool.name}${role === 'spare' ? ', as its spare' : ''}`
    : (carriedWords(entryOf(unit.drives, serial)?.carries) ?? 'no pool');
}
