import type { Job, UnitState } from '../unit/state';
import { liveEstimate, type LiveEstimate } from './liveEstimate';
import { taughtBy } from './paces';
import { passOfJob } from './passOfJob';
import type { WorkCurve } from './workCurve';
import type { WorkKnown } from './workKnown';
import { onlyShape, workShapes } from './workShapes';

/**
 * When a running job will be done, from what was read of it, from what its drives are, and from how long
 * earlier work of the unit and of its family took over drives of the same kind; `null` where nothing is known
 * to reckon with: work that is not a pass over drives, and nothing heard of it yet.
 */
export function estimateOfJob(
  unit: UnitState,
  job: Job,
  { used, taught: known = [], zone }: WorkKnown,
): LiveEstimate | null {
  const pool = unit.pools[job.pool];
  if (!pool) return null;
  const { rebuild } = unit.profile;
  const pass = passOfJob(unit, job, used);
  if (pass) {
    const others = known.filter(({ family, unit: name }) => family === unit.profile.id && name !== unit.name);
    const taught = taughtBy(
      unit.paces ?? [],
      pass.media,
      others.map(({ paces }) => paces),
    );
    const shapes = workShapes(pool.bands, pass.drives, rebuild, pass.member, taught.spread);
    return liveEstimate(shapes, job.startedAt, job.reports, {
      likely: pass.likely * taught.slower,
      countsEachBand: rebuild.counts === 'each-band',
      earlier: taught.runs,
      earlierInFamily: taught.family,
      // Whatever its drives were made of: hours are those of the unit and of its people.
      kept: (unit.paces ?? []).flatMap(({ run }) => run ?? []),
      ...(zone === undefined ? {} : { zone }),
    });
  }
  // Not a pass over the drives: as steady as its first report says.
  const first = job.reports.find(({ percent }) => percent > 0);
  if (!first) return null;
  const likely = ((Date.parse(first.at) - Date.parse(job.startedAt)) / 1000 / first.percent) * 100;
  return likely > 0 ? liveEstimate(onlyShape(STEADY), job.startedAt, job.reports, { likely }) : null;
}

const STEADY: WorkCurve = { kind: 'work-curve', seconds: 0, shares: [0, 1], times: [0, 1], bandEnds: [1] };
