import { dryRunOver, type DryStep, type DryStop } from '~/core/plan/engine/dryRun';
import { unitsOfStep } from '~/core/plan/engine/unitsOfStep';
import type { PlanRun } from '~/core/planRun/planRun';
import type { WorkKnown } from '~/core/rebuild/workKnown';
import type { UnitState } from '~/core/unit/state';
import { hoursLeft } from './hoursLeft';

/** A plan under way, and what it is reckoned with. */
export interface PlanLeft {
  /** The units it acts on, by id, as they are; the first first. */
  readonly units: Readonly<Record<string, UnitState>>;
  readonly run: PlanRun;
  /** What the work of its units is reckoned with. */
  readonly work: WorkKnown;
  readonly now: string;
}

/** What is left of a plan, folded onto the units as they are, each wait with the hours that are left of it. */
export function restAhead({ units, run: { plan, done, ended }, work, now }: PlanLeft): readonly (DryStep | DryStop)[] {
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
