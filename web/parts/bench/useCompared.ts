'use client';
import { wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Appraisal } from '~/core/appraisal/appraise';
import type { BenchWorker } from './benchWorker';
import type { BenchAsked } from './compareAll';

export interface Compared {
  /** What it is of: while something newer is compared, the one before. */
  readonly of: BenchAsked;
  readonly appraisals: readonly Appraisal[];
  /** False until the first is there. */
  readonly isThere: boolean;
  /** True while it is of what is asked now. */
  readonly isNow: boolean;
}

/** Who compares: a worker, or this thread where there is none. */
interface Comparer {
  readonly compare: (asked: BenchAsked) => Promise<readonly Appraisal[]>;
  readonly end: () => void;
}

function openComparer(): Comparer {
  const worker = new Worker(new URL('./benchWorker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<BenchWorker>(worker);
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = reject;
  });
  // Nobody waits for it while nothing is compared.
  failed.catch(() => undefined);
  const here = (asked: BenchAsked): Promise<readonly Appraisal[]> =>
    import('./compareAll').then(({ compareAll }) => compareAll(asked));
  return {
    compare: (asked) =>
      Promise.race([remote.compareAll(asked) as Promise<readonly Appraisal[]>, failed]).catch(() => here(asked)),
    end: () => worker.terminate(),
  };
}

/** Compares in a worker, one after another: of what is asked meanwhile only the last. */
export function useCompared(asked: BenchAsked): Compared {
  const [seen, setSeen] = useState<Omit<Compared, 'isNow'>>({ of: asked, appraisals: [], isThere: false });
  const comparer = useRef<Comparer | null>(null);
  const line = useRef<{ isBusy: boolean; next: BenchAsked | null }>({ isBusy: false, next: null });
  useEffect(() => {
    comparer.current = openComparer();
    line.current = { isBusy: false, next: null };
    return () => {
      comparer.current?.end();
      comparer.current = null;
    };
  }, []);
  useEffect(() => {
    const compare = (one: BenchAsked): void => {
      const now = comparer.current;
      const of = line.current;
      if (!now) return;
      if (of.isBusy) {
        of.next = one;
        return;
      }
      of.isBusy = true;
      void now.compare(one).then((appraisals) => {
        of.isBusy = false;
        if (comparer.current !== now) return;
        setSeen({ of: one, appraisals, isThere: true });
        const { next } = of;
        of.next = null;
        if (next) compare(next);
      });
    };
    compare(asked);
  }, [asked]);
  return { ...seen, isNow: seen.isThere && seen.of === asked };
}
