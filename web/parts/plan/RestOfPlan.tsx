import type { ReactNode } from 'react';
import { dryRun } from '~/core/plan/engine/dryRun';
import { whyFrozen } from '~/core/plan/engine/frozen';
import { planRisk } from '~/core/plan/engine/timeline';
import type { PlanRun } from '~/core/planRun/planRun';
import type { UnitState } from '~/core/unit/state';
import { hoursLeft } from './hoursLeft';
import { PlanAhead } from './PlanAhead';

export interface RestOfPlanProps {
  readonly unit: UnitState;
  readonly run: PlanRun;
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
  readonly now: string;
}

/**
 * What is left of a plan, folded onto the state as it is: drawn by the server, and by the browser where it holds steps
 * the server has not got. The whole model comes with it.
 */
export function RestOfPlan({ unit, run: { plan, done, ended }, used, now }: RestOfPlanProps): ReactNode {
  if (!ended && whyFrozen(unit, plan)?.code === 'pool-lost') return null;
  const left = plan.steps
    .filter(({ id }) => !Object.hasOwn(done, id))
    .map((step) => ({ ...step, ...hoursLeft(unit, step, used, now) }));
  const ahead = ended ? [] : dryRun(unit, { ...plan, steps: left }, now);
  const risks = Object.keys(unit.pools).flatMap((pool) => planRisk(unit, ahead, pool, now, used) ?? []);
  return <PlanAhead plan={plan} ahead={ahead} risks={risks} pools={unit.pools} />;
}
