'use client';
import type { WishOf } from '~/core/plan/makers/makePlan';
import type { PlanJob } from '~/schemas/plan';
import type { PlanTried } from '~/service/plans/planOperations';
import { api } from '~/web/parts/form/api';
import { useAsked } from '~/web/parts/form/useAsked';

export type Tried =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'refused'; readonly sentence: string; readonly code: string }
  | ({ readonly kind: 'tried' } & PlanTried);

/** Of a move both units are asked for, with every way between them. */
type OneUnitJob = Exclude<PlanJob, 'move'>;

const PAUSE_MS = 250;

/** The plan for a wish as it would be, made anew as the wish changes; `null` asks for nothing. */
export function usePlanTried<J extends OneUnitJob>(job: J, unit: string, wish: WishOf[J] | null): Tried {
  const asked = wish === null ? null : `${job} ${JSON.stringify(wish)}`;
  const { answer, refusal } = useAsked(
    asked,
    (signal) =>
      api(
        `POST /plans/${job as OneUnitJob}`,
        { body: { unit, wish: JSON.parse((asked ?? '').slice(job.length + 1)) as WishOf[OneUnitJob] } },
        signal,
      ),
    { pauseMs: PAUSE_MS },
  );
  if (answer) return { kind: 'tried', ...answer };
  return refusal ?? { kind: 'waiting' };
}
