'use client';
import type { UnitState } from '~/core/unit/state';
import type { Refusal } from '~/core/value/refusal';
import { useWorkerRun } from '~/web/parts/worker/useWorkerRun';
import type { Foreseer, OutlookSeen } from './outlookWorker';

export type OutlookWanted = Parameters<Foreseer['foresee']>[2];

export const FORESEER = {
  open: () => new Worker(new URL('./outlookWorker.ts', import.meta.url), { type: 'module' }),
  faults: {
    start: 'The simulation did not start: open the page again.',
    run: 'This pool could not be simulated. Nothing is wrong with it by that.',
  },
} as const;

/** Simulates the time ahead of a pool in a worker of its own; stopping ends the worker. */
export function useOutlook() {
  const { state, start, stop } = useWorkerRun<Foreseer, OutlookSeen | Refusal>(FORESEER);
  return {
    state,
    stop,
    start: (unit: UnitState, pool: string, wanted: OutlookWanted) =>
      start(
        (foreseer, onProgress) => foreseer.foresee(unit, pool, wanted, onProgress) as Promise<OutlookSeen | Refusal>,
      ),
  };
}
