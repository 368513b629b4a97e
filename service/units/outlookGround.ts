import { scrubDaysOf } from '../../core/outlook/careOnRecord';
import { USUAL_FAILURES_PER_YEAR } from '../../core/appraisal/appraise';
import { membersOf, type Pool, type UnitState } from '../../core/unit/state';
import { usedOf } from '../../store/readings';
import type { App } from '../app';
import { groupOfMedia, readOwnRates } from '../drives/ownRates';
import { readCoverage } from '../upkeep/upkeepOperations';

/** What the record says of how a pool is used and looked after, as far as its time ahead depends on it. */
export interface OutlookGround {
  /** Share of it in use; 1 where nobody read it. */
  readonly usedShare: number;
  readonly failuresPerYear: readonly [number, number];
  /** Whether that is the usual range sharpened by what failed here. */
  readonly isOwnRate: boolean;
  /** Spares in drawers of the same site that fit every member. */
  readonly inDrawer: number;
  readonly scrubDays: number | null;
}

const rounded = (share: number): number => Number(share.toPrecision(2));

/** What the record says of each pool of a unit. */
export async function outlookGround(
  app: App,
  { id, state }: { readonly id: string; readonly state: UnitState },
  now: Date,
): Promise<(pool: string) => OutlookGround> {
  const [used, rates, coverage] = await Promise.all([
    usedOf(app.db, Object.keys(state.pools)),
    readOwnRates(app, now),
    readCoverage(app, id),
  ]);
  return (id) => {
    const pool = state.pools[id] as Pool;
    const members = membersOf(pool);
    const own = rates.find(
      ({ group, failures, years }) =>
        group === groupOfMedia(state.drives[members[0] ?? '']?.media ?? 'hard-disk') && (failures > 0 || years > 0),
    );
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
      // As it is told on the page of drives: an answer does not change by the minute.
      failuresPerYear: own ? [rounded(own.low), rounded(own.high)] : USUAL_FAILURES_PER_YEAR,
      isOwnRate: own !== undefined,
      inDrawer: first ? [...first].filter((serial) => others.every((of) => of.has(serial))).length : 0,
      scrubDays: scrubDaysOf(state),
    };
  };
}
