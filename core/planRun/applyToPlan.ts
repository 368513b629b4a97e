import type { PlanEventBody } from '../../schemas/planEvent';
import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import type { PlanRun, StepDone } from './planRun';

/** What happened to a plan. */
export type PlanEvent = PlanEventBody;

/**
 * How far a plan is after something was done in it. Refuses only what cannot have happened, such as a step done twice;
 * whether a step may be done is asked before (core/plan/run).
 *
 * @param run `null` before the plan is begun
 */
export function applyToPlan(run: PlanRun | null, event: PlanEvent, at: string): PlanRun | Refusal {
  if (event.kind === 'plan-started') {
    const { units, body } = event;
    return run === null
      ? frozen<PlanRun>({ kind: 'plan-run', units, plan: body, startedAt: at, done: {}, refused: 0 })
      : refusal('plan-exists', 'This plan is begun already.', '/plan');
  }
  if (run === null) return refusal('plan-unknown', 'There is no such plan.', '/plan');
  if (event.kind === 'taken-back') return run;
  if (run.ended) return refusal('plan-ended', `“${run.plan.title}” has ended.`, '/plan');
  switch (event.kind) {
    case 'step-done': {
      const { evidence, override } = event;
      return withStep(run, event.step, { at, evidence, ...(override === undefined ? {} : { override }) });
    }
    case 'step-skipped':
      return withStep(run, event.step, { at, skipped: event.reason });
    case 'step-refused':
      // Nothing changes, and it is remembered that it was tried.
      return frozen({ ...run, refused: run.refused + 1 });
    case 'page-said':
    case 'wrong-drive-out':
      // Kept for whoever looks back; the step is as far as it was.
      return run;
    case 'plan-paused':
      return frozen({ ...run, paused: { at, note: event.note } });
    case 'plan-ended':
      return frozen({
        ...run,
        ended: { how: event.how, at, ...(event.note === undefined ? {} : { note: event.note }) },
      });
  }
}

function withStep(run: PlanRun, step: string, done: StepDone): PlanRun | Refusal {
  if (!run.plan.steps.some(({ id }) => id === step))
    return refusal('step-unknown', `This plan has no step ${step}.`, '/step');
  if (entryOf(run.done, step)) return refusal('step-done', 'This step is done already.', '/step');
  // Whoever goes on has taken over.
  const { paused: _paused, ...going } = run;
  return frozen({ ...going, done: { ...run.done, [step]: done } });
}
