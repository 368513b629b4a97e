import { apply } from './apply';
import type { RecordedEvent } from './event';
import { byTime, withdrawnOf } from './fold';
import type { UnitState } from './state';
import { isRefusal } from '../value/refusal';

/** A member that is missing, and since when. */
export interface Leaving {
  readonly pool: string;
  readonly serial: string;
  readonly at: string;
  /** What was recorded as it went. */
  readonly event: RecordedEvent['event'];
  /** True when this one took the pool below what it may lose. */
  readonly lost: boolean;
}

/** When each member that is missing now left, from the ledger; the first to go first. */
export function leavingsOf(events: readonly RecordedEvent[]): Leaving[] {
  const withdrawn = withdrawnOf(events);
  let state: UnitState | null = null;
  let leavings: Leaving[] = [];
  for (const { seq, event, happenedAt } of [...events].sort(byTime)) {
    if (withdrawn.has(seq)) continue;
    const next: ReturnType<typeof apply> = apply(state, event, happenedAt);
    if (isRefusal(next)) continue;
    for (const pool of Object.values(next.pools)) {
      const before: UnitState['pools'][string] | undefined = state?.pools[pool.id];
      for (const serial of pool.missing)
        if (before?.missing.includes(serial) !== true)
          leavings.push({ pool: pool.id, serial, at: happenedAt, event, lost: pool.lost.length > 0 && (before?.lost.length ?? 0) === 0 });
    }
    leavings = leavings.filter(({ pool, serial }) => next.pools[pool]?.missing.includes(serial) === true);
    state = next;
  }
  return leavings;
}
