import { unitLedger } from '../../world/ledger';
import { unitIn, type World } from '../../world/world';
import type { PlanBody } from '../plan';
import { inPlan, made, type Made } from './runOf';

/**
 * Begins a plan at the units it acts on.
 *
 * @param plan a new id (uuid)
 * @param units the units its intentions name
 */
export function startPlan(world: World, plan: string, units: readonly string[], body: PlanBody): Made {
  const replaced = body.steps.flatMap(({ does }) => does.flatMap((one) => ('replaces' in one ? one.replaces : [])));
  const started = inPlan(plan, { kind: 'plan-started', units: [...units], body });
  const { job, title, steps } = body;
  return made([
    started,
    ...units.map((unit) => {
      const members = [...new Set(replaced)].filter((serial) =>
        Object.hasOwn(unitIn(world, unit)?.drives ?? {}, serial),
      );
      return {
        ledger: unitLedger(unit),
        event: {
          kind: 'plan-began' as const,
          plan,
          job,
          title: title.slice(0, 120),
          of: steps.length,
          serials: members,
        },
      };
    }),
  ]);
}
