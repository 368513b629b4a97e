import { unitLedger } from '../../world/ledger';
import type { ActEntry } from '../../world/act';
import { planIn, unitIn, type World } from '../../world/world';
import type { PlanBody } from '../plan';
import { atUnits, inPlan, made, type Made } from './runOf';

/**
 * Begins a plan at the units it acts on.
 *
 * @param plan a new id (uuid)
 * @param units the units its intentions name
 * @param instead plans under way that end by it: this one takes over where they stopped
 */
export function startPlan(
  world: World,
  plan: string,
  units: readonly string[],
  body: PlanBody,
  instead: readonly string[] = [],
): Made {
  const replaced = body.steps.flatMap(({ does }) => does.flatMap((one) => ('replaces' in one ? one.replaces : [])));
  const started = inPlan(plan, { kind: 'plan-started', units: [...units], body });
  const { job, title, steps } = body;
  const note = `“${body.title}” takes over`.slice(0, 400);
  return made([
    ...instead.flatMap((other): ActEntry[] => {
      const run = planIn(world, other);
      return run && !run.ended
        ? [
            inPlan(other, { kind: 'plan-ended', how: 'stopped', note }),
            ...atUnits(run, { kind: 'plan-ended', plan: other, how: 'stopped', note }),
          ]
        : [];
    }),
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
          ...(unit === units[0] ? {} : { ledFrom: units[0] as string }),
        },
      };
    }),
  ]);
}
