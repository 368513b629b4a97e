import type { PlanStep } from '~/core/plan/plan';
import { estimateOfJob } from '~/core/rebuild/estimateOfJob';
import type { WorkKnown } from '~/core/rebuild/workKnown';
import type { UnitState } from '~/core/unit/state';
import { jobOf } from './jobOf';

/** Running work takes as long as it now looks, not as long as was once reckoned. */
export function hoursLeft(unit: UnitState, step: PlanStep, work: WorkKnown, now: string): { readonly hours?: number } {
  const job = jobOf(unit, step);
  const estimate = job && estimateOfJob(unit, job, work);
  return estimate ? { hours: Math.max(0, (Date.parse(estimate.likely) - Date.parse(now)) / 3_600_000) } : {};
}
