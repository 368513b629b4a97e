'use client';
import { useEffect, useState } from 'react';
import type { PlanBody } from '~/core/plan/plan';
import type { PlanRisk } from '~/core/plan/engine/timeline';
import type { PlanJob } from '~/schemas/plan';
import { send } from '~/web/parts/form/send';

export interface TriedStep {
  readonly kind: string;
  readonly step: string;
  readonly at?: string;
  readonly usableBytes?: number;
  readonly refusal?: { readonly sentence: string };
  readonly interlocks?: readonly { readonly sentence: string; readonly back: string }[];
}

export type Tried =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'refused'; readonly sentence: string }
  | { readonly kind: 'tried'; readonly plan: PlanBody; readonly dryRun: readonly TriedStep[]; readonly risks: readonly PlanRisk[] };

const PAUSE_MS = 250;

/** The plan for a wish as it would be, made anew as the wish changes; `null` asks for nothing. */
export function usePlanTried(job: PlanJob, unit: string, wish: object | null): Tried {
  const asked = wish === null ? null : `${job} ${JSON.stringify(wish)}`;
  const [answered, setAnswered] = useState<{ readonly asked: string; readonly tried: Tried } | null>(null);
  useEffect(() => {
    if (asked === null) return undefined;
    let isOld = false;
    const timer = setTimeout(() => {
      void send('POST', `/api/v1/plans/${job}`, { unit, wish: JSON.parse(asked.slice(job.length + 1)) as object }).then((sent) => {
        if (isOld) return;
        const tried: Tried = sent.kind === 'done' ? { kind: 'tried', ...(sent.answer as unknown as Omit<Extract<Tried, { kind: 'tried' }>, 'kind'>) } : sent;
        setAnswered({ asked, tried });
      });
    }, PAUSE_MS);
    return () => {
      isOld = true;
      clearTimeout(timer);
    };
  }, [job, unit, asked]);
  // An answer to what was asked before is none.
  return answered?.asked === asked ? answered.tried : { kind: 'waiting' };
}
