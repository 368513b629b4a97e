import type { Job } from '../unit/state';
import type { PlanRun } from './planRun';
import type { PlanStep } from '../../schemas/plan';

/** The steps that must be done before this one and are not: empty when it may be done now. */
export function waitsFor({ plan, done }: Pick<PlanRun, 'plan' | 'done'>, step: PlanStep): PlanStep[] {
  return plan.steps.filter(({ id }) => step.after.includes(id) && !Object.hasOwn(done, id));
}

/** The first step that is not done and waits for nothing; `null` when all are done. */
export function nextStep(run: Pick<PlanRun, 'plan' | 'done'>): PlanStep | null {
  return run.plan.steps.find((step) => !Object.hasOwn(run.done, step.id) && waitsFor(run, step).length === 0) ?? null;
}

/** Steps that were begun upon and left: what is half done when a plan is stopped here. */
export function leftOver({ plan, done }: Pick<PlanRun, 'plan' | 'done'>): PlanStep[] {
  return plan.steps.filter(({ id }) => !Object.hasOwn(done, id));
}

/** True when a step of the plan that is not done ends with this job. */
export function waitsForJob({ plan, done }: Pick<PlanRun, 'plan' | 'done'>, { pool, replaces, task }: Job): boolean {
  return plan.steps.some(
    ({ id, does }) =>
      !Object.hasOwn(done, id) &&
      does.some((one) =>
        one.kind === 'finish-rebuild'
          ? one.pool === pool && one.replaces === replaces
          : one.kind === 'finish-job'
            ? one.pool === pool && one.task === task
            : false,
      ),
  );
}

/** The step done or left out last, by when it happened; of several at one moment the last in the plan's order. `null` before any. */
export function lastDone({ plan, done }: Pick<PlanRun, 'plan' | 'done'>): PlanStep | null {
  return plan.steps.reduce<PlanStep | null>((last, step) => {
    const at = done[step.id]?.at;
    return at !== undefined && (last === null || at >= (done[last.id]?.at ?? '')) ? step : last;
  }, null);
}
