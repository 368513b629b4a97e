import { factsOf } from '../layout/scheme';
import { standingOf } from '../ledger/fold';
import { membersLost } from '../survival/membersLost';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import type { RecordedEvent } from './event';
import { poolsOf, type UnitState } from './state';

/** A member that is missing, and since when. */
export interface MissingMember {
  readonly pool: string;
  readonly serial: string;
  readonly at: string;
  /** What was recorded as it went. */
  readonly event: RecordedEvent['event'];
  /** True when this one took the pool below what it may lose. */
  readonly lost: boolean;
}

/** When each member that is missing now left, from the ledger; the first to go first. */
export function missingMembersOf(events: readonly RecordedEvent[]): MissingMember[] {
  let state: UnitState | null = null;
  let gone: MissingMember[] = [];
  for (const { event, happenedAt } of standingOf(events)) {
    const next: ReturnType<typeof apply> = apply(state, event, happenedAt);
    if (isRefusal(next)) continue;
    for (const pool of poolsOf(next)) {
      const before: UnitState['pools'][string] | undefined = state?.pools[pool.id];
      for (const serial of pool.missing)
        if (before?.missing.includes(serial) !== true)
          gone.push({
            pool: pool.id,
            serial,
            at: happenedAt,
            event,
            lost: pool.lost.length > 0 && (before?.lost.length ?? 0) === 0,
          });
    }
    gone = gone.filter(({ pool, serial }) => next.pools[pool]?.missing.includes(serial) === true);
    state = next;
  }
  return state === null
    ? gone
    : gone.map((one) => (one.lost || !tookDown(state as UnitState, gone, one) ? one : { ...one, lost: true }));
}

/** Where the one that took a lost pool down is back: the first of those missing now without which it cannot be. */
function tookDown(
  { pools }: UnitState,
  leavings: readonly MissingMember[],
  { pool: id, serial }: MissingMember,
): boolean {
  const pool = pools[id];
  const gone = leavings.filter((one) => one.pool === id);
  if (!pool || pool.lost.length === 0 || gone.some(({ lost }) => lost)) return false;
  const at = gone.findIndex((one) => one.serial === serial);
  const isLost = (n: number): boolean =>
    membersLost(pool.bands, factsOf(pool.scheme).loses, new Set(gone.slice(0, n).map((one) => one.serial))).length > 0;
  return isLost(at + 1) && !isLost(at);
}
