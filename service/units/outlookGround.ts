import { scrubDaysOf } from '../../core/outlook/careOnRecord';
import { membersOf, type Pool, type UnitState } from '../../core/unit/state';
import { usedOf } from '../../store/readings';
import type { App } from '../app';
import { readThoughts, type PoolThought } from '../drives/ownRates';
import { readCoverage } from '../upkeep/upkeepOperations';

/** What the record says of how a pool is used and looked after, as far as its time ahead depends on it. */
export interface OutlookGround extends PoolThought {
  /** Share of it in use; 1 where nobody read it. */
  readonly usedShare: number;
  /** Spares in drawers of the same site that fit every member. */
  readonly inDrawer: number;
  readonly scrubDays: number | null;
}

/** What the record says of each pool of a unit. */
export async function outlookGround(
  app: App,
  { id, state }: { readonly id: string; readonly state: UnitState },
  now: Date,
): Promise<(pool: string) => OutlookGround> {
  const [used, thoughts, coverage] = await Promise.all([
    usedOf(app.db, Object.keys(state.pools)),
    readThoughts(app, now, [state]),
    readCoverage(app, id),
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
      ...(thoughts[id] as PoolThought),
      inDrawer: first ? [...first].filter((serial) => others.every((of) => of.has(serial))).length : 0,
      scrubDays: scrubDaysOf(state),
    };
  };
}
