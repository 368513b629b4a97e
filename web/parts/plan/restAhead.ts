import { dryRunOver, type DryStep, type DryStop } from '~/core/plan/engine/dryRun';
import { unitsOfStep } from '~/core/plan/engine/unitsOfStep';
import type { RestOfPlanProps } from './RestOfPlan';
import { hoursLeft } from './hoursLeft';

/** What is left of a plan, folded onto the units as they are, each wait with the hours that are left of it. */
export function restAhead({
  units,
  run: { plan, done, ended },
  work,
  now,
}: Pick<RestOfPlanProps, 'units' | 'run' | 'work' | 'now'>): readonly (DryStep | DryStop)[] {
  if (ended) return [];
  const ids = Object.keys(units);
  const left = plan.steps
    .filter(({ id }) => !Object.hasOwn(done, id))
    .map((step) => {
      const unit = units[unitsOfStep(step, ids)[0] ?? ''];
      return { ...step, ...(unit ? hoursLeft(unit, step, work, now) : {}) };
    });
  return dryRunOver(units, { ...plan, steps: left }, now, done);
}
