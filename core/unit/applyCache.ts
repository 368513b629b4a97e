import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { isWorking } from './applyPool';
import type { Of } from './event';
import { poolOfDrive, type UnitState } from './state';

/**
 * Which drives are the cache of the unit, from now on: these and no others. What it holds stays as it was said before, where it is
 * not said anew.
 */
export function setCache(unit: UnitState, { serials, holds }: Of<'cache-set'>): UnitState | Refusal {
  const wrong = serials.findIndex(
    (serial) => entryOf(unit.drives, serial)?.bay == null || !isWorking(unit, serial) || poolOfDrive(unit, serial),
  );
  if (wrong < 0) {
    const { cacheHolds: before, ...rest } = unit;
    const now = holds ?? (unit.cache.length > 0 ? before : undefined);
    return frozen({
      ...rest,
      cache: [...serials],
      ...(now === undefined || serials.length === 0 ? {} : { cacheHolds: now }),
    });
  }
  const serial = serials[wrong] as string;
  const at = `/serials/${String(wrong)}`;
  if (entryOf(unit.drives, serial)?.bay == null)
    return refusal('drive-not-here', `${serial} is not in any bay of ${unit.name}.`, at);
  const pool = poolOfDrive(unit, serial);
  return pool
    ? refusal('drive-in-pool', `${serial} belongs to ${pool.name}.`, at)
    : refusal('not-working', `${serial} does not work: it is no cache.`, at);
}
