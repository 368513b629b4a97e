import type { PlanRun } from '../../planRun/planRun';
import { planLedger, unitLedger } from '../../world/ledger';
import type { ActEntry } from '../../world/act';
import { planIn, type World } from '../../world/world';
import type { PlanEvent } from '../../planRun/applyToPlan';
import type { Of } from '../../unit/event';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanStep } from '../plan';

/** What a command on a plan makes: entries for the plan's ledger and those of the units it acts on. */
export interface Made {
  readonly kind: 'made';
  readonly entries: readonly ActEntry[];
  /** Bytes used by pool, where the step says how full one is now. */
  readonly fills?: readonly { readonly unit: string; readonly pool: string; readonly bytes: number }[];
}

/** A command that was made: what is to be written, whole or not at all. */
export function made(entries: readonly ActEntry[]): Made {
  return { kind: 'made', entries };
}

/** A plan under way or ended, by its id (uuid); refuses one the world does not hold. */
export function runOf(world: World, plan: string): PlanRun | Refusal {
  return planIn(world, plan) ?? refusal('not-found', 'There is no such plan.');
}

/** A step of a plan by its id; refuses one the plan does not have. */
export function stepOf({ plan }: PlanRun, id: string): PlanStep | Refusal {
  return plan.steps.find((step) => step.id === id) ?? refusal('step-unknown', 'This plan has no such step.', '/step');
}

/** An entry for a plan's own ledger. */
export function inPlan(plan: string, event: PlanEvent): ActEntry {
  return { ledger: planLedger(plan), event };
}

/** The same word at every unit the plan acts on. */
export function atUnits({ units }: PlanRun, event: Of<'plan-step'> | Of<'plan-paused'> | Of<'plan-ended'>): ActEntry[] {
  return units.map((unit) => ({ ledger: unitLedger(unit), event }));
}
