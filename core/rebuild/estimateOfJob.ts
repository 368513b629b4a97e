import type { Job, UnitState } from '../unit/state';
import { estimateRebuild, type RebuildDrive } from './estimateRebuild';
import { liveEstimate, type LiveEstimate } from './liveEstimate';
import type { WorkCurve } from './workCurve';
import { onlyShape, workShapes } from './workShapes';

/** Share of a unit's speed that goes into work in daily use (common practice). */
const USUAL_SHARE = 0.7;

/**
 * When a running job will be done, from what was read of it and from what its drives are; `null` where nothing is known
 * to reckon with: work that is not a pass over drives, and nothing heard of it yet.
 *
 * @param used bytes used by pool, as last read; matters where only used space is rebuilt
 */
export function estimateOfJob(unit: UnitState, job: Job, used: Readonly<Record<string, number>>): LiveEstimate | null {
  const pool = unit.pools[job.pool];
  if (!pool) return null;
  const { rebuild } = unit.profile;
  const drives = new Map(
    pool.bands
      .flatMap(({ members }) => members)
      .map((serial): [string, RebuildDrive] => {
        const { bytes, media = 'hard-disk' } = unit.drives[serial === job.replaces ? (job.onto ?? serial) : serial] ?? {
          bytes: 1,
        };
        return [serial, { bay: serial, bytes, media }];
      }),
  );
  const countsEachBand = rebuild.counts === 'each-band';
  if (job.replaces !== undefined) {
    const shapes = workShapes(pool.bands, drives, rebuild, job.replaces);
    const usedShare = Math.min(1, (used[job.pool] ?? pool.shownBytes) / pool.shownBytes);
    const { likely } = estimateRebuild(pool.bands, drives, job.replaces, rebuild, usedShare);
    return liveEstimate(shapes, job.startedAt, job.reports, { likely, countsEachBand });
  }
  if (job.task === 'scrub' || job.task === 'first-build') {
    const shapes = workShapes(pool.bands, drives, rebuild);
    const likely = (shapes[0]?.curve.seconds ?? 0) / USUAL_SHARE;
    return liveEstimate(shapes, job.startedAt, job.reports, { likely, countsEachBand });
  }
  // Not a pass over the drives: as steady as its first report says.
  const first = job.reports.find(({ percent }) => percent > 0);
  if (!first) return null;
  const likely = ((Date.parse(first.at) - Date.parse(job.startedAt)) / 1000 / first.percent) * 100;
  return likely > 0 ? liveEstimate(onlyShape(STEADY), job.startedAt, job.reports, { likely }) : null;
}

const STEADY: WorkCurve = { kind: 'work-curve', seconds: 0, shares: [0, 1], times: [0, 1], bandEnds: [1] };
