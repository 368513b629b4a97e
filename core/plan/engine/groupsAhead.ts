import { groupsOf } from '../../unit/groupsOf';
import type { UnitState } from '../../unit/state';
import type { PlanBody, PlanJob } from '../plan';
import type { GroupsAhead } from './boxesOfStep';
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
