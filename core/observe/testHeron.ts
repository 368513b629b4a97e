import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import type { UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';
import { afterEvents, eventsOfUnit } from '../unit/testUnit';

/** A unit of five bays, four drives in a pool that can lose one, for tests. */
export const AT = '2026-01-01T00:00:00.000Z';
export const BAYS = ['1', '2', '3', '4', '5'];
export const drives = ['1', '2', '3', '4'].map((bay) => ({ bay, bytes: 8001563222016 }));
export const serialOf = new Map(drives.map(({ bay }) => [bay, `QH8-0442${bay}`]));
export function unitAfter(...later: UnitEvent[]): UnitState {
  const begun = eventsOfUnit({
    profile: reedbank,
    scheme: 'parity-1',
    sizes: drives.map(({ bytes }) => bytes),
    bays: BAYS.length,
    serialIn: (bay) => serialOf.get(bay) ?? '',
  });
  return afterEvents(null, [...begun, ...later], AT);
}
