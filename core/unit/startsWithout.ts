import { factsOf } from '../layout/scheme';
import { marginOf } from '../survival/marginOf';
import { membersOf, poolsOf, type UnitState } from './state';

/** How a pool would start without drives that are not there. */
export interface StartsWithout {
  readonly pool: string;
  readonly name: string;
  /** How many more members it may lose then; below 0 it does not start, or starts without what was on them. */
  readonly margin: number;
  /** It loses as a whole, or only what is on those drives. */
  readonly loses: 'pool' | 'drives';
}

/** Which pools of a unit start without these drives, by the one rule of pools; those that do not count on any of them are left out. */
export function startsWithout(unit: UnitState, serials: readonly string[]): readonly StartsWithout[] {
  return poolsOf(unit).flatMap((pool) =>
    serials.some((serial) => membersOf(pool).includes(serial))
      ? {
          pool: pool.id,
          name: pool.name,
          margin: marginOf(pool.bands, new Set([...pool.missing, ...serials])),
          loses: factsOf(pool.scheme).loses === 'pool' ? ('pool' as const) : ('drives' as const),
        }
      : [],
  );
}
