'use client';
import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';

/** How far a run in a worker is. */
export type WorkerRun<Seen> =
  | { readonly kind: 'idle' }
  | { readonly kind: 'busy'; readonly share: number }
  | { readonly kind: 'done'; readonly seen: Seen }
  | { readonly kind: 'fault'; readonly sentence: string };

interface Running<Api> {
  readonly worker: Worker;
  readonly api: Remote<Api>;
}

interface Given {
  readonly open: () => Worker;
  /** What is said when the worker does not start, and when what it was given cannot be worked on. */
  readonly faults: { readonly start: string; readonly run: string };
}

/** Runs something long in a worker of its own, off the page's own thread, one at a time; stopping ends the worker. */
export function useWorkerRun<Api, Seen>({
  open,
  faults,
}: Given): {
  readonly state: WorkerRun<Seen>;
  readonly start: (work: (api: Remote<Api>, onProgress: (share: number) => void) => Promise<Seen>) => void;
  readonly stop: () => void;
  /** The worker that ran last, for asking it more. */
  readonly api: () => Remote<Api> | null;
} {
  const [state, setState] = useState<WorkerRun<Seen>>({ kind: 'idle' });
  const running = useRef<Running<Api> | null>(null);
  const given = useRef({ open, faults });
  const stop = useCallback((): void => {
    running.current?.worker.terminate();
    running.current = null;
    setState({ kind: 'idle' });
  }, []);
  useEffect(() => () => running.current?.worker.terminate(), []);
  const start = useCallback((work: (api: Remote<Api>, onProgress: (share: number) => void) => Promise<Seen>): void => {
    running.current?.worker.terminate();
    const worker = given.current.open();
    const mine: Running<Api> = { worker, api: wrap<Api>(worker) };
    running.current = mine;
    setState({ kind: 'busy', share: 0 });
    const isMine = (): boolean => running.current === mine;
    const fail = (sentence: string): void => {
      if (isMine()) setState({ kind: 'fault', sentence });
    };
    worker.onerror = () => fail(given.current.faults.start);
    work(
      mine.api,
      proxy((share: number) => {
        if (isMine()) setState((now) => (now.kind === 'busy' ? { kind: 'busy', share } : now));
      }),
    )
      .then((seen) => {
        if (isMine()) setState({ kind: 'done', seen });
      })
      .catch(() => fail(given.current.faults.run));
  }, []);
  return { state, start, stop, api: () => running.current?.api ?? null };
}
