import { scrubDaysOf } from '../../core/outlook/careOnRecord';
import { lotKey, type LotSeen } from '../../core/outlook/poolToCome';
import { rateGroupOf, type ThoughtRate } from '../../core/risk/thoughtRate';
import { membersOf, type Pool, type UnitState } from '../../core/unit/state';
import { usedOf } from '../../store/readings';
import type { App } from '../app';
import { readLots, readThoughtRates } from '../drives/ownRates';
import { readCoverage } from '../upkeep/upkeepOperations';

/** What the record says of how a pool is used and looked after, as far as its time ahead depends on it. */
export interface OutlookGround {
  /** Share of it in use; 1 where nobody read it. */
  readonly usedShare: number;
  readonly rate: ThoughtRate;
  /** Spares in drawers of the same site that fit every member. */
  readonly inDrawer: number;
  readonly scrubDays: number | null;
  /** What was seen of the lots of its members. */
  readonly lots: readonly LotSeen[];
}

/** What the record says of each pool of a unit. */
export async function outlookGround(
  app: App,
  { id, state }: { readonly id: string; readonly state: UnitState },
  now: Date,
): Promise<(pool: string) => OutlookGround> {
  const lotsHere = new Set(Object.values(state.drives).flatMap((drive) => lotKey(drive) ?? []));
  const [used, rates, coverage, lots] = await Promise.all([
    usedOf(app.db, Object.keys(state.pools)),
    readThoughtRates(app, now),
    readCoverage(app, id),
    readLots(app, now, lotsHere),
  ]);
  return (id) => {
    const pool = state.pools[id] as Pool;
    const members = membersOf(pool);
    const bays = coverage.flatMap((of) => of.bays).filter(({ serial }) => members.includes(serial));
    const near = bays.map(
      ({ spares }) =>
        new Set(
          spares.filter(({ reach }) => reach === 'same-room' || reach === 'same-site').map(({ serial }) => serial),
        ),
    );
    const [first, ...others] = near;
    return {
      usedShare: Math.min(1, (used[id] ?? pool.shownBytes) / Math.max(1, pool.shownBytes)),
      rate: rates[rateGroupOf(state.drives[members[0] ?? '']?.media)],
      inDrawer: first ? [...first].filter((serial) => others.every((of) => of.has(serial))).length : 0,
      scrubDays: scrubDaysOf(state),
      lots: lots.filter(({ lot }) => members.some((serial) => lotKey(state.drives[serial]) === lot)),
    };
  };
}
