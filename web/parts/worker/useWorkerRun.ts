'use client';
import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';

/** How far a run in a worker is. */
export type WorkerRun<Seen> =
  | { readonly kind: 'idle' }
  | { readonly kind: 'busy'; readonly share: number }
  | { readonly kind: 'done'; readonly seen: Seen }
  | { readonly kind: 'fault'; readonly sentence: string };

/** How a run ended; `stopped` also where another was begun over it. */
export type WorkerEnd<Seen> = Extract<WorkerRun<Seen>, { kind: 'done' | 'fault' }> | { readonly kind: 'stopped' };

interface Running<Api, Seen> {
  readonly worker: Worker;
  readonly api: Remote<Api>;
  readonly end: (how: WorkerEnd<Seen>) => void;
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
  readonly start: (
    work: (api: Remote<Api>, onProgress: (share: number) => void) => Promise<Seen>,
  ) => Promise<WorkerEnd<Seen>>;
  readonly stop: () => void;
  /** The worker that ran last, for asking it more. */
  readonly api: () => Remote<Api> | null;
} {
  const [state, setState] = useState<WorkerRun<Seen>>({ kind: 'idle' });
  const running = useRef<Running<Api, Seen> | null>(null);
  const given = useRef({ open, faults });
  const endRunning = useCallback((): void => {
    running.current?.worker.terminate();
    running.current?.end({ kind: 'stopped' });
    running.current = null;
  }, []);
  const stop = useCallback((): void => {
    endRunning();
    setState({ kind: 'idle' });
  }, [endRunning]);
  useEffect(() => endRunning, [endRunning]);
  const start = useCallback(
    (work: (api: Remote<Api>, onProgress: (share: number) => void) => Promise<Seen>): Promise<WorkerEnd<Seen>> => {
      endRunning();
      return new Promise((resolve) => {
        const worker = given.current.open();
        const mine: Running<Api, Seen> = { worker, api: wrap<Api>(worker), end: resolve };
        running.current = mine;
        setState({ kind: 'busy', share: 0 });
        const isMine = (): boolean => running.current === mine;
        const endWith = (how: Extract<WorkerEnd<Seen>, { kind: 'done' | 'fault' }>): void => {
          if (!isMine()) return;
          setState(how);
          resolve(how);
        };
        const fail = (sentence: string): void => endWith({ kind: 'fault', sentence });
        worker.onerror = () => fail(given.current.faults.start);
        work(
          mine.api,
          proxy((share: number) => {
            if (isMine()) setState((now) => (now.kind === 'busy' ? { kind: 'busy', share } : now));
          }),
        )
          .then((seen) => endWith({ kind: 'done', seen }))
          .catch(() => fail(given.current.faults.run));
      });
    },
    [endRunning],
  );
  return { state, start, stop, api: () => running.current?.api ?? null };
}
