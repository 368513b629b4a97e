'use client';
import { proxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { ShortComparison } from '~/core/listing/shortComparison';
import type { ListingComparer } from './listingWorker';

export type Comparing =
  | { readonly kind: 'idle' }
  | { readonly kind: 'busy'; readonly share: number }
  | { readonly kind: 'done'; readonly seen: ShortComparison }
  | { readonly kind: 'fault'; readonly sentence: string };

interface Running {
  readonly worker: Worker;
  readonly comparer: Remote<ListingComparer>;
}

/** Compares two lists in a worker of its own; stopping ends the worker. */
export function useComparing(): {
  readonly state: Comparing;
  readonly start: (left: string | File, right: string | File, leaveOut: readonly string[]) => void;
  readonly stop: () => void;
  readonly comparer: () => Remote<ListingComparer> | null;
} {
  const [state, setState] = useState<Comparing>({ kind: 'idle' });
  const running = useRef<Running | null>(null);
  const stop = (): void => {
    running.current?.worker.terminate();
    running.current = null;
    setState({ kind: 'idle' });
  };
  useEffect(() => () => running.current?.worker.terminate(), []);
  const start = (left: string | File, right: string | File, leaveOut: readonly string[]): void => {
    running.current?.worker.terminate();
    const worker = new Worker(new URL('./listingWorker.ts', import.meta.url), { type: 'module' });
    const mine: Running = { worker, comparer: wrap<ListingComparer>(worker) };
    running.current = mine;
    setState({ kind: 'busy', share: 0 });
    const isMine = (): boolean => running.current === mine;
    const fail = (sentence: string): void => {
      if (isMine()) setState({ kind: 'fault', sentence });
    };
    worker.onerror = () => fail('The comparison did not start, or ran out of memory: compare share by share.');
    mine.comparer
      .compare(
        left,
        right,
        leaveOut,
        proxy((share: number) => {
          if (isMine()) setState((now) => (now.kind === 'busy' ? { kind: 'busy', share } : now));
        }),
      )
      .then((seen) => {
        if (isMine()) setState({ kind: 'done', seen });
      })
      .catch(() => fail('A list could not be read: is it text?'));
  };
  return { state, start, stop, comparer: () => running.current?.comparer ?? null };
}
