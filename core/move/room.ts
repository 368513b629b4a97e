import { poolsOf, type Pool, type UnitState } from '../unit/state';

/** Bytes in use by pool, as last read. */
export type Used = Readonly<Record<string, number>>;

/** Bytes a unit has in use, all of its pools; a pool that was never read counts as full. */
export function bytesInUse(unit: UnitState, used: Used): number {
  return poolsOf(unit).reduce((sum, { id, shownBytes }) => sum + (used[id] ?? shownBytes), 0);
}

/** Bytes a pool still takes; below 0 where more is in use than it should hold. */
export function roomIn({ id, shownBytes, fileSystemReserveBytes }: Pool, used: Used): number {
  return shownBytes - fileSystemReserveBytes - (used[id] ?? 0);
}

/** The pool of a unit with most room: what is copied goes into one. */
export function roomiest(unit: UnitState, used: Used): Pool | undefined {
  return [...poolsOf(unit)].sort((a, b) => roomIn(b, used) - roomIn(a, used))[0];
}
