import { useEffect } from 'react';
import type { Layout } from '~/core/layout/layout';
import type { Care } from '~/core/outlook/assumed';
import type { PoolSimulated } from '~/core/risk/simulate/simulate';
import type { Enclosure } from '~/core/unit/state';
import type { Foreseer, LayoutForeseen } from '~/web/parts/outlook/outlookWorker';
import { FORESEER } from '~/web/parts/outlook/useOutlook';
import { useWorkerRun, type WorkerRun } from '~/web/parts/worker/useWorkerRun';
import type { BenchAsked } from './compareAll';

/** How a unit that is only thought of is looked after: common practice. */
export const BENCH_CARE: Care = { notice: 'same-day', orderDays: 3, scrubDays: 30, inDrawer: 0 };

/** The same chance every time. */
const SEED = 15;
/** Lives of each layout: members of all of them a second's worth or so at a time. */
const MOST_LIVES = 20_000;
const LEAST_LIVES = 2000;
const MEMBER_LIVES = 120_000;

/** What the years to come hold for each layout, by what it goes by. */
export type Foreseen = ReadonlyMap<string, PoolSimulated>;

/** Simulates every layout that is compared, in a worker of its own, when it is asked for; what was seen of other drives is dropped. */
export function useForeseen(
  of: BenchAsked,
  enclosures: readonly Enclosure[],
  layouts: readonly Layout[],
): {
  readonly state: WorkerRun<Foreseen>;
  readonly start: () => void;
  readonly stop: () => void;
} {
  const { state, start, stop } = useWorkerRun<Foreseer, Foreseen>(FORESEER);
  useEffect(() => stop, [of, stop]);
  const { profile, drives, assumptions, failuresPerYear } = of;
  const lives = Math.round(MEMBER_LIVES / Math.max(1, drives.length));
  return {
    state,
    stop,
    start: () =>
      start(async (foreseer, onProgress) => {
        const seen = (await foreseer.foreseeLayouts(
          { profile, enclosures, drives, layouts },
          {
            care: BENCH_CARE,
            now: new Date().toISOString(),
            usedShare: assumptions.usedShare,
            lots: [],
            years: assumptions.years,
            failuresPerYear,
            seed: SEED,
            mostLives: Math.max(LEAST_LIVES, Math.min(MOST_LIVES, lives)),
          },
          onProgress,
        )) as readonly LayoutForeseen[];
        return new Map(seen.map((one) => [one.key, one]));
      }),
  };
}
