import { waitsFor } from '../../planRun/progress';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { World } from '../../world/world';
import { atUnits, inPlan, made, runOf, stepOf, type Made } from './runOf';

/** Leaves a step out, with the reason: only one that may be, and only in its turn. */
export function skipStep(
  world: World,
  { plan, step: id, reason }: { readonly plan: string; readonly step: string; readonly reason: string },
): Made | Refusal {
  const run = runOf(world, plan);
  if (isRefusal(run)) return run;
  const step = stepOf(run, id);
  if (isRefusal(step)) return step;
  if (run.ended) return refusal('plan-ended', `“${run.plan.title}” has ended.`, '/plan');
  if (entryOf(run.done, id)) return refusal('step-done', 'This step is done already.', '/step');
  if (step.maySkip !== true)
    return refusal('not-skippable', 'This step is not left out: what follows rests on it.', '/step');
  const waiting = waitsFor(run, step);
  if (waiting.length > 0) return refusal('not-yet', `First: ${waiting.map(({ title }) => title).join('; ')}.`, '/step');
  return made([
    inPlan(plan, { kind: 'step-skipped', step: id, reason }),
    ...atUnits(run, { kind: 'plan-step', plan, step: id, title: step.title, how: 'skipped', note: reason }),
  ]);
}

/**
 * Whether a step may be taken back: nothing that is done rests on it. Taking it back is taking back the act it was done
 * by, with all it changed.
 */
export function whyNotBack(world: World, plan: string, step: string): Refusal | undefined {
  const run = runOf(world, plan);
  if (isRefusal(run)) return run;
  if (run.ended) return refusal('plan-ended', `“${run.plan.title}” has ended.`, '/plan');
  if (!entryOf(run.done, step)) return refusal('step-not-done', 'This step has not been done.', '/step');
  const rests = run.plan.steps.find(({ id, after }) => after.includes(step) && entryOf(run.done, id));
  return rests
    ? refusal('rests-on-it', `“${rests.title}” rests on this step: take that back first.`, '/step')
    : undefined;
}
