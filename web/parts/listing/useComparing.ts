'use client';
import type { Remote } from 'comlink';
import type { ShortComparison } from '~/core/listing/shortComparison';
import { useWorkerRun, type WorkerRun } from '~/web/parts/worker/useWorkerRun';
import type { ListingComparer } from './listingWorker';

const WORKER = {
  open: () => new Worker(new URL('./listingWorker.ts', import.meta.url), { type: 'module' }),
  faults: {
    start: 'The comparison did not start, or ran out of memory: compare share by share.',
    run: 'A list could not be read: is it text?',
  },
} as const;

/** Compares two lists in a worker of its own; stopping ends the worker. */
export function useComparing(): {
  readonly state: WorkerRun<ShortComparison>;
  readonly start: (left: string | File, right: string | File, leaveOut: readonly string[]) => void;
  readonly stop: () => void;
  readonly comparer: () => Remote<ListingComparer> | null;
} {
  const { state, start, stop, api } = useWorkerRun<ListingComparer, ShortComparison>(WORKER);
  return {
    state,
    start: (left, right, leaveOut) =>
      start((comparer, onProgress) => comparer.compare(left, right, leaveOut, onProgress) as Promise<ShortComparison>),
    stop,
    comparer: api,
  };
}
