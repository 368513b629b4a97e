import type { PlanJob } from '../../schemas/plan';
import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import type { Of } from './event';
import type { PlanHere, UnitState } from './state';

/** What a unit knows of the plans that act on it: that one is under way, and how far it is. The plan has a ledger of its own. */

/**
 * A plan begins to act here, at `startedAt` (ISO). Refused when it does already, or another that moves members is under
 * way: drives are changed one at a time.
 */
export function beginPlan(
  unit: UnitState,
  { plan: id, job, title, of, serials, ledFrom }: Of<'plan-began'>,
  startedAt: string,
): UnitState | Refusal {
  if (entryOf(unit.plans, id)) return refusal('plan-exists', `${unit.name} has this plan already.`, '/plan');
  if (unit.packed && job !== 'carry-back' && job !== 'rescue')
    return refusal(
      'packed',
      `The drives of ${unit.name} are carried to another unit: they are carried on, or carried back, before anything else is planned.`,
      '/job',
    );
  const running = planInTheWay(unit, job);
  if (running)
    return refusal('plan-running', `“${running.title}” is under way already. Finish or stop it first.`, '/job');
  const led = ledFrom === undefined ? {} : { ledFrom };
  return withPlan(unit, { id, job, title, of, serials, ...led, done: 0, startedAt });
}

/** Drives are changed one at a time: of the plans that touch members one runs, whatever it is called. The one that does, if any. */
export function planInTheWay({ plans }: Pick<UnitState, 'plans'>, job: PlanJob): PlanHere | undefined {
  return Object.values(plans).find((other) => other.job === job || (!APART.has(other.job) && !APART.has(job)));
}

/** These stand by themselves: a unit from its box has no members yet, and the rescue may begin at any time. */
const APART: ReadonlySet<PlanJob> = new Set(['commission', 'rescue']);

/** A step that was stopped changes nothing; it is remembered that it was. */
export function passStep(unit: UnitState, { plan, how }: Of<'plan-step'>): UnitState | Refusal {
  return inPlan(unit, plan, ({ paused: _paused, ...going }) =>
    withPlan(unit, how === 'refused' ? going : { ...going, done: going.done + 1 }),
  );
}

/**
 * A plan is laid aside at `at` (ISO), with the reason; the next step takes it up again. Refused when it is not under
 * way here.
 */
export function restPlan(unit: UnitState, { plan, note }: Of<'plan-paused'>, at: string): UnitState | Refusal {
  return inPlan(unit, plan, (here) => withPlan(unit, { ...here, paused: { at, note } }));
}

/**
 * A plan is done with or given up: the unit knows of it no more, its own ledger does. Refused when it is not under way
 * here.
 */
export function endPlanHere(unit: UnitState, { plan }: Of<'plan-ended'>): UnitState | Refusal {
  return inPlan(unit, plan, () => {
    const { [plan]: _ended, ...plans } = unit.plans;
    return frozen({ ...unit, plans });
  });
}

function inPlan(unit: UnitState, id: string, change: (here: PlanHere) => UnitState | Refusal): UnitState | Refusal {
  const here = entryOf(unit.plans, id);
  return here ? change(here) : refusal('plan-unknown', `No plan of this name is under way at ${unit.name}.`, '/plan');
}

function withPlan(unit: UnitState, here: PlanHere): UnitState {
  return frozen({ ...unit, plans: { ...unit.plans, [here.id]: here } });
}
