import { isWorking } from './applyPool';
import type { UnitState } from './state';

/** How the cache of a unit stands. `single`: what was written is on one drive alone. */
export interface CacheStanding {
  readonly kind: 'none' | 'well' | 'single' | 'dead';
  /** Its drives that do not work, by serial, and those that do. */
  readonly dead: readonly string[];
  readonly working: readonly string[];
}

/** How the cache of a unit stands; `dead` as soon as one of its drives does not work. */
export function cacheStands(unit: UnitState): CacheStanding {
  const working = unit.cache.filter((serial) => isWorking(unit, serial));
  const dead = unit.cache.filter((serial) => !working.includes(serial));
  const kind =
    unit.cache.length === 0
      ? 'none'
      : dead.length > 0
        ? 'dead'
        : unit.cacheHolds === 'writes' && working.length === 1
          ? 'single'
          : 'well';
  return { kind, dead, working };
}

/**
 * What a dead drive of the cache means, by what the cache holds: nothing for one of reads only; for one of writes, that what was
 * written and has not reached the pool is on what is left of it, or nowhere. Not known is said, and taken for the worse.
 */
export function deadCacheWords(unit: UnitState): string {
  const { working } = cacheStands(unit);
  if (unit.cacheHolds === 'reads')
    return 'It holds only what was read: nothing is lost, and reading is slower. It is renewed when it suits.';
  const unsaid =
    unit.cacheHolds === undefined
      ? 'Whether it holds what was written nobody has said: take it that it does, and look at its page. '
      : '';
  return working.length > 0
    ? `${unsaid}What was written and has not reached the pool is on ${working.length === 1 ? 'one drive' : 'the other drives'} now. Pull none of them, restart nothing: switch the cache off in its page, and let it empty.`
    : `${unsaid}What was written and had not reached the pool may be lost. Pull nothing, restart nothing, and look at once what its page says of every pool.`;
}
