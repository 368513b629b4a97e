import { groupsOf, type GroupsShown } from '../../unit/groupsOf';
import type { Enclosure, UnitState } from '../../unit/state';
import type { PlanBody, PlanJob, PlanStep } from '../plan';
import type { DryStep, DryStop } from './dryRun';

/** Plans that make groups, or fit what groups are made of. */
const MAKES_GROUPS: ReadonlySet<PlanJob> = new Set([
  'commission',
  'new-pool',
  'grow',
  'convert',
  'extend',
  'hot-spare',
]);

/** The groups of a unit, and the boxes it has by then: an extension may come with the plan. */
export interface GroupsAhead extends Pick<UnitState, 'enclosures'> {
  readonly shown: GroupsShown;
}

/**
 * The groups as they are when a plan is done: what goes in is fitted for them. Nothing for a plan that makes none.
 *
 * @param run what is left of it, tried
 */
export function groupsAhead(
  unit: UnitState,
  plan: Pick<PlanBody, 'job'>,
  run: readonly (DryStep | DryStop)[],
): GroupsAhead | null {
  if (!MAKES_GROUPS.has(plan.job)) return null;
  const last = run.findLast((one) => one.kind === 'dry-step');
  const then = last?.kind === 'dry-step' ? last.after : unit;
  const shown = groupsOf(then);
  return shown.groups.length === 0 ? null : { enclosures: then.enclosures, shown };
}

/** The boxes whose groups a step is about: where hands make, fit or count them. */
export function boxesOfStep({ enclosures }: Pick<UnitState, 'enclosures'>, { does }: PlanStep): readonly Enclosure[] {
  const bays = new Set(
    does.flatMap((one): readonly string[] => {
      switch (one.kind) {
        case 'fit-drive':
          return [one.drive.bay];
        case 'make-pool':
        case 'add-drives':
        case 'change-level':
          return one.bays;
        case 'assign-spare':
          return [one.bay];
        case 'count-drives':
          return enclosures.find(({ name }) => name === one.enclosure)?.bays ?? [];
        default:
          return [];
      }
    }),
  );
  return enclosures.filter((box) => box.bays.some((bay) => bays.has(bay)));
}
