import type { PlanJob } from '../../../schemas/plan';
import { formatBytes } from '../../quantity/formatBytes';
import { roomForVolume } from '../../unit/roomForVolume';
import type { UnitState } from '../../unit/state';
import { FULL_LINE } from '../../upkeep/need';
import { dryRun } from '../engine/dryRun';
import type { PlanDraft } from './draftPlan';

/**
 * Adds the steps that hold what the unit's page shows against what the plan should have made of the pool, and give it to
 * the volumes: a pool that has grown under a volume of fixed size is as full as before for everybody who uses it.
 */
export function spaceSeen(draft: PlanDraft, unit: UnitState, job: PlanJob, pool: string): void {
  const last = dryRun(unit, { job, title: '', steps: draft.steps }, unit.registeredAt).at(-1);
  const after = last?.kind === 'dry-step' ? last.after : unit;
  const shown = after.pools[pool]?.shownBytes ?? 0;
  const { counts, prints } = unit.profile.unitPage;
  const size = (bytes: number): string => formatBytes(bytes, counts === 'TiB' ? 'binary' : 'decimal', 1);
  draft.then({
    id: 'space',
    kind: 'record',
    title: `See that the unit shows about ${size(shown)}${counts === prints ? '' : ` (its page prints “${prints}”)`}`,
    why: 'Much less, and an expansion is still to be started, or a volume to be enlarged: that is no fault of a drive.',
    asks: {
      kind: 'number',
      label: `What its page shows of ${after.pools[pool]?.name ?? 'the pool'}`,
      unit: prints,
      least: 0,
      most: 9000,
    },
    does: [{ kind: 'see-space', pool, bytes: Math.max(1, shown) }],
  });
  if (shown <= (unit.pools[pool]?.shownBytes ?? 0)) return;
  const volumes = Object.values(after.volumes).filter((volume) => volume.pool === pool);
  // What is shown with a fixed size, or larger than what stands behind it, has nothing to be enlarged.
  const thick = unit.profile.volumes.nominalBytes === undefined ? volumes.filter(({ thin }) => !thin) : [];
  for (const [i, volume] of thick.filter((one) => roomForVolume(after, one) > one.bytes).entries())
    draft.then({
      id: `volume-${String(i + 1)}`,
      kind: 'act',
      title: `Enlarge ${volume.name} to ${size(roomForVolume(after, volume))} in the unit’s own page`,
      why: 'The pool has the space, the volume has not: until it is enlarged nobody who uses it sees more. It can be used meanwhile; most units never make a volume smaller again.',
      does: [{ kind: 'enlarge-volume', volume: volume.id }],
      maySkip: true,
    });
  draft.then({
    id: 'warning-line',
    title: `Set the warning of ${volumes.length === 1 ? (volumes[0]?.name ?? 'the volume') : 'every volume'} to ${size(shown * FULL_LINE)}, ${String(FULL_LINE * 100)} % of the pool`,
    why: 'A warning that was set by size still speaks of the old one; of a volume shown larger than its pool it never speaks in time.',
    maySkip: true,
  });
}
