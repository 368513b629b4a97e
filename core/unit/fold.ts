import { isRefusal, type Refusal } from '../value/refusal';
import { apply } from './apply';
import type { RecordedEvent } from './event';
import type { UnitState } from './state';

/** By when it happened, then by the ledger's sequence: a late entry is placed where it belongs. */
export function byTime(a: RecordedEvent, b: RecordedEvent): number {
  return a.happenedAt < b.happenedAt ? -1 : a.happenedAt > b.happenedAt ? 1 : a.seq - b.seq;
}

/**
 * The unit's state after all its events, in the order they happened.
 *
 * @param events in any order, `happenedAt` in UTC with one format, so that text order is time order
 * @returns the state, or the refusal of the first event that cannot have happened there
 */
export function foldUnit(events: readonly RecordedEvent[], from: UnitState | null = null): UnitState | Refusal {
  let unit = from;
  const withdrawn = withdrawnOf(events);
  for (const { seq, event, happenedAt } of [...events].sort(byTime)) {
    if (withdrawn.has(seq)) continue;
    const next = apply(unit, event, happenedAt);
    if (isRefusal(next)) return next;
    unit = next;
  }
  return unit ?? refusalOfNothing;
}

const refusalOfNothing: Refusal = Object.freeze({ kind: 'refusal', code: 'not-registered', sentence: 'There are no events of this unit.' });

/**
 * The entries that no longer count: those a later entry withdraws, unless that one is withdrawn itself. Nothing is ever
 * taken out of the ledger; the fold passes over it.
 */
export function withdrawnOf(events: readonly RecordedEvent[]): ReadonlySet<number> {
  const withdrawn = new Set<number>();
  for (const { seq, event } of [...events].sort((a, b) => b.seq - a.seq)) {
    if (event.kind === 'statement-withdrawn' && !withdrawn.has(seq)) withdrawn.add(event.seq);
  }
  return withdrawn;
}
