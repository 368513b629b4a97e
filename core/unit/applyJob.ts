import { tooSmallWords } from '../drive/tooSmall';
import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { isWorking, withPool } from './applyPool';
import type { Of } from './event';
import {
  membersOf,
  MOST_REPORTS,
  poolOfDrive,
  type Job,
  type JobTask,
  type Pool,
  type ProgressReport,
  type UnitState,
} from './state';
import { withPace } from '../rebuild/paces';
import { paceOfJob } from '../rebuild/passOfJob';
import { fullMarginOfPool } from './margin';
import { neededBytes } from './neededBytes';

/** Work that takes hours: builds, rebuilds, replacements through a free bay, scrubs. */

/** Work on a pool begins; of a rebuild or a replacement it says from which member onto which drive. Refused where that cannot be. */
export function startJob(unit: UnitState, event: Of<'job-started'>, happenedAt: string): UnitState | Refusal {
  const pool = entryOf(unit.pools, event.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no pool ${event.pool}.`, '/pool');
  if (entryOf(unit.jobs, event.job)) return refusal('job-exists', `Job ${event.job} is running already.`, '/job');
  if (event.task === 'rebuild' || event.task === 'replace') {
    const wrong = whyNotOnto(unit, pool, event);
    if (wrong) return wrong;
  }
  const { kind: _kind, job, ...body } = event;
  const building =
    event.task === 'first-build' &&
    unit.profile.growth.protectedDuringFirstBuild !== true &&
    fullMarginOfPool(pool) > 0;
  const again = withWorkDone(unit, event.pool, event.task, false);
  const begun = building ? withPool(again, { ...pool, building: true }) : again;
  return putJob(begun, {
    kind: 'job',
    id: job,
    ...body,
    percent: 0,
    startedAt: happenedAt,
    heardAt: happenedAt,
    reports: [],
  });
}

/** A drive that cannot be written as the new member: no unit starts on it. */
function whyNotOnto(unit: UnitState, pool: Pool, { task, replaces, onto }: Of<'job-started'>): Refusal | undefined {
  if (replaces === undefined || !(task === 'rebuild' ? pool.missing : membersOf(pool)).includes(replaces))
    return refusal(
      'nothing-to-rebuild',
      `A ${task === 'rebuild' ? 'rebuild names the missing' : 'replacement names the'} member it takes over from.`,
      '/replaces',
    );
  const drive = entryOf(unit.drives, onto ?? '');
  if (onto === undefined || drive?.bay == null)
    return refusal('drive-not-here', 'A rebuild names the drive it writes, which is in a bay.', '/onto');
  if (!isWorking(unit, onto))
    return refusal('not-working', `${onto} does not work: nothing is rebuilt onto it.`, '/onto');
  if (unit.power === 'off')
    return refusal('switched-off', `${unit.name} is switched off: nothing is rebuilt while it is.`, '/onto');
  const box = unit.enclosures.find(({ bays }) => drive.bay !== null && bays.includes(drive.bay));
  if (box && unit.away.includes(box.name))
    return refusal('enclosure-away', `${onto} stands in ${box.name}, which has dropped out.`, '/onto');
  const member = membersOf(pool).includes(onto) && (onto !== replaces || task === 'replace');
  if (member || (poolOfDrive(unit, onto) ?? pool) !== pool)
    return refusal('drive-in-pool', `${onto} is a member already.`, '/onto');
  if (unit.cache.includes(onto)) return refusal('drive-in-pool', `${onto} is cache of the unit.`, '/onto');
  const busy = Object.values(unit.jobs).find(
    (job) => job.onto === onto || (job.pool === pool.id && job.replaces === replaces),
  );
  if (busy) return refusal('rebuild-runs', `A rebuild from ${replaces} or onto ${onto} is under way already.`, '/onto');
  const needs = neededBytes(unit, replaces);
  if (drive.bytes < needs && drive.basis === 'exact')
    return refusal('drive-too-small', tooSmallWords(onto, drive.bytes, needs), '/onto');
  return undefined;
}

/** The percent (0 to 100) a page shows of work, of the whole or of one band. Refused for work that is not under way. */
export function progressJob(
  unit: UnitState,
  { job: id, percent, band }: Of<'job-progressed'>,
  at: string,
): UnitState | Refusal {
  return withJob(unit, id, (job) =>
    putJob(unit, { ...reported(job, { at, percent, ...(band === undefined ? {} : { band }) }), percent, heardAt: at }),
  );
}

/**
 * Work began anew: percent 0 from `at` (ISO), the reports before it kept, for what they taught of the rate. Refused for
 * work that is not under way.
 */
export function restartJob(unit: UnitState, { job: id }: Of<'job-restarted'>, at: string): UnitState | Refusal {
  return withJob(unit, id, (job) =>
    putJob(unit, { ...reported(job, { at, percent: 0 }), percent: 0, startedAt: at, heardAt: at }),
  );
}

function reported(job: Job, report: ProgressReport): Job {
  return { ...job, reports: [...job.reports, report].slice(-MOST_REPORTS) };
}

/** A spare steps in for a member that went: one event, and the rebuild onto it has begun. */
export function takeOver(
  unit: UnitState,
  { pool: id, spare, replaces, job }: Of<'spare-took-over'>,
  happenedAt: string,
): UnitState | Refusal {
  if (entryOf(unit.pools, id)?.spares.includes(spare) !== true)
    return refusal('not-a-spare', `${spare} is not a spare of this pool.`, '/spare');
  return startJob(unit, { kind: 'job-started', job, task: 'rebuild', pool: id, replaces, onto: spare }, happenedAt);
}

/** A finished rebuild gives the place of the missing member to the new drive; only now does the margin come back. */
export function finishJob(unit: UnitState, job: Job): UnitState | Refusal {
  const pace = paceOfJob(unit, job);
  const ended = withWorkDone(endJob(unit, job.id), job.pool, job.task, true);
  const after = pace ? { ...ended, paces: withPace(unit.paces ?? [], pace) } : ended;
  const pool = unit.pools[job.pool] as Pool;
  const { replaces, onto } = job;
  if (job.task === 'first-build') {
    const { building: _done, ...built } = pool;
    return withPool(after, built);
  }
  if (replaces === undefined || onto === undefined) return frozen(after);
  const written = unit.drives[onto];
  if (written?.bay == null || written.condition === 'failed')
    return refusal(
      'drive-not-here',
      `${onto} is not working in a bay of ${unit.name}: a rebuild onto it cannot have finished.`,
      '/job',
    );
  const { backIn: _rebuilt, ...whole } = written;
  return withPool(
    { ...after, drives: { ...after.drives, [onto]: whole } },
    {
      ...pool,
      bands: pool.bands.map((band) => ({
        ...band,
        members: band.members.map((member) => (member === replaces ? onto : member)),
      })),
      spares: pool.spares.filter((spare) => spare !== onto),
      missing: pool.missing.filter((member) => member !== replaces),
    },
  );
}

/** The unit after a change of running work. Refused (`job-unknown`) when none of this id runs. */
export function withJob(unit: UnitState, id: string, change: (job: Job) => UnitState | Refusal): UnitState | Refusal {
  const job = entryOf(unit.jobs, id);
  return job ? change(job) : refusal('job-unknown', `${unit.name} has no running job ${id}.`, '/job');
}

/** The unit with this work under way, in place of what ran by the same id. */
export function putJob(unit: UnitState, job: Job): UnitState {
  return frozen({ ...unit, jobs: { ...unit.jobs, [job.id]: job } });
}

/** Whether the last work of this kind on a pool was done to its end. */
function withWorkDone(unit: UnitState, pool: string, task: JobTask, isDone: boolean): UnitState {
  const before = entryOf(unit.workDone ?? {}, pool) ?? [];
  if (before.includes(task) === isDone) return unit;
  const after = isDone ? [...before, task] : before.filter((one) => one !== task);
  return frozen({ ...unit, workDone: { ...unit.workDone, [pool]: after } });
}

/** The unit without that work; what it did to its pool is the caller's matter. No change when none of this id runs. */
export function endJob(unit: UnitState, id: string): UnitState {
  const { [id]: _ended, ...jobs } = unit.jobs;
  return frozen({ ...unit, jobs });
}
