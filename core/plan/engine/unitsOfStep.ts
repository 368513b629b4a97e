import type { PlanStep } from '../plan';

/** What stands in the step for one unit: intentions that name none are the first unit's. */
export function partOf(step: PlanStep, unit: string, first: string): PlanStep {
  return { ...step, does: step.does.filter((one) => (one.unit ?? first) === unit) };
}

/**
 * The units of a plan that a step acts on; the first, where it changes nothing.
 *
 * @param units those the plan acts on, by their ids
 */
export function unitsOfStep({ does }: Pick<PlanStep, 'does'>, units: readonly string[]): readonly string[] {
  const named = new Set(does.map((one) => one.unit ?? units[0]));
  const acts = units.filter((id) => named.has(id));
  return acts.length > 0 ? acts : units.slice(0, 1);
}
