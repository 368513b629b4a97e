import { leftOver } from '../../planRun/progress';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { World } from '../../world/world';
import { atUnits, inPlan, made, runOf, type Made } from './runOf';

/** Lets a plan rest, with words for whoever goes on. */
export function pausePlan(
  world: World,
  { plan, note }: { readonly plan: string; readonly note: string },
): Made | Refusal {
  const run = runOf(world, plan);
  if (isRefusal(run)) return run;
  return made([inPlan(plan, { kind: 'plan-paused', note }), ...atUnits(run, { kind: 'plan-paused', plan, note })]);
}

/** Finishes a plan whose steps are all done or left out, or stops one half-way. */
export function endPlan(
  world: World,
  {
    plan,
    how,
    note,
  }: { readonly plan: string; readonly how: 'finished' | 'stopped'; readonly note?: string | undefined },
): Made | Refusal {
  const run = runOf(world, plan);
  if (isRefusal(run)) return run;
  const open = leftOver(run);
  if (how === 'finished' && open.length > 0)
    return refusal('steps-open', `Still to do: ${open.map(({ title }) => title).join('; ')}.`, '/how');
  const words = note === undefined || note === '' ? {} : { note };
  return made([
    inPlan(plan, { kind: 'plan-ended', how, ...words }),
    ...atUnits(run, { kind: 'plan-ended', plan, how, ...words }),
  ]);
}
