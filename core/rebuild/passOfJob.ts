import type { Job, UnitState } from '../unit/state';
import { estimateRebuild, type RebuildDrive } from './estimateRebuild';
import { keptOf } from './hoursLearnt';
import type { Pace } from './paces';
import { progressRuns } from './progressRuns';
import { timeAt, workCurve, type WorkCurve } from './workCurve';

/** Share of a unit's speed that goes into work in daily use (common practice). */
const USUAL_SHARE = 0.7;
/** Less of a run says little of all of it. */
const LEAST_TAUGHT = 0.3;

/** Work that goes over drives from end to end: what it goes over, and how long that takes as far as drives are known. */
export interface DrivePass {
  readonly drives: ReadonlyMap<string, RebuildDrive>;
  /** The member that is written anew; none where everything is read. */
  readonly member?: string;
  readonly curve: WorkCurve;
  /** Seconds, likely, before anything is known of the unit. */
  readonly likely: number;
  /** What the drives are made of, in order. */
  readonly media: string;
}

/**
 * A running job as a pass over drives; `null` for work that is none.
 *
 * @param used bytes used by pool, as last read; matters where only used space is rebuilt
 */
export function passOfJob(
  { pools, drives: known, profile: { rebuild } }: UnitState,
  job: Job,
  used: Readonly<Record<string, number>>,
): DrivePass | null {
  const pool = pools[job.pool];
  if (!pool || (job.replaces === undefined && job.task !== 'scrub' && job.task !== 'first-build')) return null;
  const drives = new Map(
    pool.bands
      .flatMap(({ members }) => members)
      .map((serial): [string, RebuildDrive] => {
        const { bytes, media = 'hard-disk' } = known[serial === job.replaces ? (job.onto ?? serial) : serial] ?? {
          bytes: 1,
        };
        return [serial, { bay: serial, bytes, media }];
      }),
  );
  const media = [...new Set([...drives.values()].map((drive) => drive.media))].sort().join(' ');
  const curve = workCurve(pool.bands, drives, rebuild, job.replaces);
  if (job.replaces === undefined) return { drives, curve, likely: curve.seconds / USUAL_SHARE, media };
  const usedShare = Math.min(1, (used[job.pool] ?? pool.shownBytes) / pool.shownBytes);
  const { likely } = estimateRebuild(pool.bands, drives, job.replaces, rebuild, usedShare);
  return { drives, member: job.replaces, curve, likely, media };
}

/**
 * How much longer a job took than was reckoned, by what was read of it last: when somebody wrote down that it is done says
 * little. `null` where too little was read; and where only used space was written, for nobody knows any more how much that was.
 */
export function paceOfJob(unit: UnitState, job: Job): Pace | null {
  const { rebuild } = unit.profile;
  if (job.replaces !== undefined && rebuild.covers === 'used-space') return null;
  const pass = passOfJob(unit, job, {});
  if (!pass || pass.likely <= 0) return null;
  const run = progressRuns(pass.curve, job.startedAt, job.reports, rebuild.counts === 'each-band').at(-1);
  const last = run?.readings.at(-1);
  if (!run || run.begun === null || !last || last.share < LEAST_TAUGHT) return null;
  const slower = (last.at - run.begun) / 1000 / (pass.likely * timeAt(pass.curve, last.share));
  if (!(slower > 0) || !Number.isFinite(slower)) return null;
  const kept = keptOf(pass.curve, run);
  return { media: pass.media, slower: Number(slower.toPrecision(3)), ...(kept ? { run: kept } : {}) };
}
