import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import { planLayout } from '../layout/planLayout';
import type { Profile } from '../platform/profile';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import { poolCreated } from '../unit/poolCreated';
import type { UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';

/** A unit of five bays, four drives in a pool that can lose one, for tests. */
export const AT = '2026-01-01T00:00:00.000Z';
export const BAYS = ['1', '2', '3', '4', '5'];
export const drives = ['1', '2', '3', '4'].map((bay) => ({ bay, bytes: 8001563222016 }));
export const serialOf = new Map(drives.map(({ bay }) => [bay, `QH8-0442${bay}`]));
export function unitAfter(...later: UnitEvent[]): UnitState {
  const events = [
    {
      kind: 'unit-registered',
      name: 'Heron',
      place: { site: 'S', room: 'R' },
      profile: reedbank,
      enclosures: [{ name: 'Head', bays: BAYS }],
    },
    ...drives.map(({ bay, bytes }) => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: serialOf.get(bay), bytes, basis: 'exact' },
    })),
    poolCreated(planLayout(reedbank as Profile, 'parity-1', drives), 'p', 'Pool', serialOf),
    ...later,
  ] as UnitEvent[];
  return events.reduce<UnitState | null>((state, event) => {
    const next = apply(state, event, AT);
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  }, null) as UnitState;
}
