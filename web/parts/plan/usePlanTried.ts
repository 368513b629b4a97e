'use client';
import { useEffect, useState } from 'react';
import type { WishOf } from '~/core/plan/makers/makePlan';
import type { PlanJob } from '~/schemas/plan';
import type { PlanTried } from '~/service/plans/planOperations';
import { api } from '~/web/parts/form/api';

export type Tried =
  { readonly kind: 'waiting' } | { readonly kind: 'refused'; readonly sentence: string; readonly code: string } | ({ readonly kind: 'tried' } & PlanTried);

const PAUSE_MS = 250;

/** The plan for a wish as it would be, made anew as the wish changes; `null` asks for nothing. */
export function usePlanTried<J extends PlanJob>(job: J, unit: string, wish: WishOf[J] | null): Tried {
  const asked = wish === null ? null : `${job} ${JSON.stringify(wish)}`;
  const [answered, setAnswered] = useState<{ readonly asked: string; readonly tried: Tried } | null>(null);
  useEffect(() => {
    if (asked === null) return undefined;
    let isOld = false;
    const timer = setTimeout(() => {
      void api(`POST /plans/${job as PlanJob}`, { body: { unit, wish: JSON.parse(asked.slice(job.length + 1)) as WishOf[PlanJob] } }).then((sent) => {
        if (isOld) return;
        const tried: Tried = sent.kind === 'done' ? { kind: 'tried', ...sent.answer } : sent;
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
