import { frozen } from '../value/frozen';
import { own } from '../value/own';
import { refusal, type Refusal } from '../value/refusal';
import type { PlanJob } from '../../schemas/plan';
import type { Of } from './event';
import type { PlanRun, StepDone, UnitState } from './state';

/** How far a plan is: which steps are done, with what evidence. */

export function startPlan(unit: UnitState, { plan: id, body }: Of<'plan-started'>, startedAt: string): UnitState | Refusal {
  if (own(unit.plans, id)) return refusal('plan-exists', `${unit.name} has a plan ${id} already.`, '/plan');
  const running = Object.values(unit.plans).find(({ ended, plan }) => ended === undefined && isSameWork(plan.job, body.job));
  if (running) return refusal('plan-running', `“${running.plan.title}” is under way already. Finish or stop it first.`, '/body/job');
  return withPlan(unit, { id, plan: body, startedAt, done: {}, refused: 0 });
}

/** Drives are changed one at a time: of the plans that touch members one runs, whatever it is called. */
function isSameWork(a: PlanJob, b: PlanJob): boolean {
  return a === b || (MEMBER_JOBS.has(a) && MEMBER_JOBS.has(b));
}

const MEMBER_JOBS: ReadonlySet<PlanJob> = new Set(['replace', 'replace-all', 'spare-in', 'came-back']);

export function doStep(unit: UnitState, { plan, step, evidence, override }: Of<'step-done'>, at: string): UnitState | Refusal {
  return withStep(unit, plan, step, { at, ...(evidence === undefined ? {} : { evidence }), ...(override === undefined ? {} : { override }) });
}

export function skipStep(unit: UnitState, { plan, step, reason }: Of<'step-skipped'>, at: string): UnitState | Refusal {
  return withStep(unit, plan, step, { at, skipped: reason });
}

export function endPlan(unit: UnitState, { plan, how, note }: Of<'plan-ended'>, at: string): UnitState | Refusal {
  return withRun(unit, plan, (run) => withPlan(unit, { ...run, ended: { how, at, ...(note === undefined ? {} : { note }) } }));
}

function withStep(unit: UnitState, plan: string, step: string, done: StepDone): UnitState | Refusal {
  return withRun(unit, plan, (run) => {
    if (!run.plan.steps.some(({ id }) => id === step)) return refusal('step-unknown', `This plan has no step ${step}.`, '/step');
    if (own(run.done, step)) return refusal('step-done', 'This step is done already.', '/step');
    // Whoever goes on has taken over.
    const { paused: _paused, ...going } = run;
    return withPlan(unit, { ...going, done: { ...run.done, [step]: done } });
  });
}

/** A step that was stopped: nothing changes, and it is remembered that it was. */
export function refuseStep(unit: UnitState, { plan }: Of<'step-refused'>): UnitState | Refusal {
  return withRun(unit, plan, (run) => withPlan(unit, { ...run, refused: run.refused + 1 }));
}

export function pausePlan(unit: UnitState, { plan, note }: Of<'plan-paused'>, at: string): UnitState | Refusal {
  return withRun(unit, plan, (run) => withPlan(unit, { ...run, paused: { at, note } }));
}

function withRun(unit: UnitState, id: string, change: (run: PlanRun) => UnitState | Refusal): UnitState | Refusal {
  const run = own(unit.plans, id);
  if (!run) return refusal('plan-unknown', `${unit.name} has no plan ${id}.`, '/plan');
  return run.ended ? refusal('plan-ended', `“${run.plan.title}” has ended.`, '/plan') : change(run);
}

function withPlan(unit: UnitState, run: PlanRun): UnitState {
  return frozen({ ...unit, plans: { ...unit.plans, [run.id]: run } });
}
