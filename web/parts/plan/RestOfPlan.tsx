import type { ReactNode } from 'react';
import type { DryStep, DryStop } from '~/core/plan/engine/dryRun';
import { whyFrozen } from '~/core/plan/engine/frozen';
import type { Thought } from '~/core/outlook/lossAhead';
import { risksOf } from '~/core/plan/engine/timeline';
import { whereDataIs } from '~/core/plan/engine/whereData';
import type { UnitState } from '~/core/unit/state';
import { PlanAhead } from './PlanAhead';
import { restAhead, type PlanLeft } from './restAhead';
import { WhereDataIs } from './WhereDataIs';

export interface RestOfPlanProps extends PlanLeft {
  /** What is thought of the drives of each pool. */
  readonly thought: Readonly<Record<string, Thought>>;
  /** What is left, where it has been tried already. */
  readonly ahead?: readonly (DryStep | DryStop)[];
}

/**
 * What is left of a plan, folded onto the state as it is: drawn by the server, and by the browser where it holds steps
 * the server has not got. The whole model comes with it.
 */
export function RestOfPlan({ units, run, work, thought, now, ahead: tried }: RestOfPlanProps): ReactNode {
  const { plan, ended } = run;
  const ids = Object.keys(units);
  if (!ended && Object.values(units).some((unit) => whyFrozen(unit, plan)?.code === 'pool-lost')) return null;
  const pools = Object.assign({}, ...Object.values(units).map((unit) => unit.pools)) as UnitState['pools'];
  const ahead = tried ?? restAhead({ units, run, work, now });
  return (
    <PlanAhead plan={plan} ahead={ahead} risks={risksOf(units, ahead, now, { used: work.used, thought })} pools={pools}>
      {ids.length > 1 && <WhereDataIs where={whereDataIs(units, ahead, now)} plan={plan} />}
    </PlanAhead>
  );
}
