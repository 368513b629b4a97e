import type { StatedUnitEvent } from '../../schemas/unitEvent';
import type { UnitState } from '../unit/state';

/**
 * What a sentence says of the cache as a whole: "the cache is off", "it is a read cache", "the cache holds writes too". Nothing
 * where no drive is recorded as cache: which one it is stands at its bay.
 */
export function aboutCache({ cache }: UnitState, low: string): readonly StatedUnitEvent[] {
  if (cache.length === 0 || !/\bcach/.test(low)) return [];
  if (/\b(off|disabled|deleted|removed|emptied|ended)\b/.test(low)) return [{ kind: 'cache-set', serials: [] }];
  if (/\bwrit/.test(low)) return [{ kind: 'cache-set', serials: [...cache], holds: 'writes' }];
  return /\bread/.test(low) ? [{ kind: 'cache-set', serials: [...cache], holds: 'reads' }] : [];
}
