import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import plain from '../platform/profiles/plain.json';
import { isRefusal } from '../value/refusal';
import type { RecordedEvent, UnitEvent } from './event';
import { foldUnit } from './fold';
import { missingMembersOf } from './missingMembers';
import type { UnitState } from './state';
import { eventsOfUnit } from './testUnit';

const BAYS = ['1', '2', '3', '4', '5'];
const hour = (n: number): string => new Date(Date.parse('2026-01-01T00:00:00Z') + n * 3_600_000).toISOString();

function begun(): RecordedEvent[] {
  const events = eventsOfUnit({ profile: plain, scheme: 'parity-2', sizes: BAYS.map(() => 8e12) });
  return events.map((event, i) => ({ seq: i + 1, happenedAt: hour(0), event }));
}

const what = fc.record({
  kind: fc.constantFrom(
    'drive-failed',
    'drive-taken-out-of-service',
    'drive-removed',
    'drive-returned',
    'pool-restored',
  ),
  bay: fc.constantFrom(...BAYS),
  at: fc.integer({ min: 1, max: 200 }),
});

function eventOf({ kind, bay }: { readonly kind: string; readonly bay: string }): UnitEvent {
  const serial = `D-${bay}`;
  return (kind === 'pool-restored' ? { kind, pool: 'p', serials: [serial] } : { kind, serial }) as UnitEvent;
}

describe('leavingsOf', () => {
  it('names exactly the members that are missing, in the order they left, on any history with late entries', () => {
    fc.assert(
      fc.property(fc.array(what, { maxLength: 14 }), (happened) => {
        const events = begun();
        let unit = foldUnit(events) as UnitState;
        for (const one of happened) {
          const next: RecordedEvent = { seq: events.length + 1, happenedAt: hour(one.at), event: eventOf(one) };
          const state = foldUnit([...events, next]);
          // The ledger takes only what folds; a late entry may make a later one impossible.
          if (isRefusal(state)) continue;
          events.push(next);
          unit = state;
        }
        const leavings = missingMembersOf(events);
        expect(leavings.map(({ serial }) => serial).sort()).toEqual([...(unit.pools['p']?.missing ?? [])].sort());
        expect(leavings.map(({ at }) => at)).toEqual(leavings.map(({ at }) => at).sort());
        // A pool that was lost and restored may stand again; one that is lost now names who took it down.
        if ((unit.pools['p']?.lost.length ?? 0) > 0) expect(leavings.some(({ lost }) => lost)).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });

  it('passes over what was withdrawn', () => {
    const events: RecordedEvent[] = [
      ...begun(),
      { seq: 50, act: 'wrong', happenedAt: hour(3), event: { kind: 'drive-failed', serial: 'D-1' } },
      { seq: 51, happenedAt: hour(5), event: { kind: 'drive-failed', serial: 'D-2' } },
      { seq: 52, happenedAt: hour(6), event: { kind: 'taken-back', act: 'wrong', reason: 'the wrong unit' } },
    ];
    expect(missingMembersOf(events)).toMatchObject([{ serial: 'D-2', at: hour(5), pool: 'p', lost: false }]);
  });
});
