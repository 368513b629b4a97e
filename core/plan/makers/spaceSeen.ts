import type { PlanJob } from '../../../schemas/plan';
import { formatBytes } from '../../quantity/formatBytes';
import type { UnitState } from '../../unit/state';
import { dryRun } from '../engine/dryRun';
import type { PlanDraft } from './draftPlan';

/** Adds the step that holds what the unit's page shows against what the plan should have made of the pool. */
export function spaceSeen(draft: PlanDraft, unit: UnitState, job: PlanJob, pool: string): void {
  const last = dryRun(unit, { job, title: '', steps: draft.steps }, unit.registeredAt).at(-1);
  const shown = (last?.kind === 'dry-step' ? last.after : unit).pools[pool]?.shownBytes ?? 0;
  const { counts, prints } = unit.profile.unitPage;
  draft.then({
    id: 'space',
    kind: 'record',
    title: `See that the unit shows about ${formatBytes(shown, counts === 'TiB' ? 'binary' : 'decimal', 1)}${counts === prints ? '' : ` (its page prints “${prints}”)`}`,
    why: 'Much less, and an expansion is still to be started, or a volume to be enlarged: that is no fault of a drive.',
    asks: { kind: 'text', label: 'What its page shows now' },
    does: [{ kind: 'note' }],
  });
}
