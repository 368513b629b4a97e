import { frozen } from '../value/frozen';
import { own } from '../value/own';
import { refusal, type Refusal } from '../value/refusal';
import { withPool } from './applyPool';
import type { Of } from './event';
import { membersOf, poolOfDrive, type Job, type Pool, type UnitState } from './state';

/** Work that takes hours: builds, rebuilds, scrubs. */

export function startJob(unit: UnitState, event: Of<'job-started'>, happenedAt: string): UnitState | Refusal {
  const pool = own(unit.pools, event.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no pool ${event.pool}.`, '/pool');
  if (own(unit.jobs, event.job)) return refusal('job-exists', `Job ${event.job} is running already.`, '/job');
  if (event.task === 'rebuild') {
    const { replaces, onto } = event;
    if (replaces === undefined || !pool.missing.includes(replaces))
      return refusal('nothing-to-rebuild', 'A rebuild names the missing member it takes over from.', '/replaces');
    if (onto === undefined || own(unit.drives, onto)?.bay == null)
      return refusal('drive-not-here', 'A rebuild names the drive it writes, which is in a bay.', '/onto');
    const member = membersOf(pool).includes(onto) && onto !== replaces;
    if (member || (poolOfDrive(unit, onto) ?? pool) !== pool) return refusal('drive-in-pool', `${onto} is a member already.`, '/onto');
  }
  const { kind: _kind, job, ...body } = event;
  return putJob(unit, { kind: 'job', id: job, ...body, percent: 0, startedAt: happenedAt, heardAt: happenedAt });
}

/** A spare steps in for a member that went: one event, and the rebuild onto it has begun. */
export function takeOver(unit: UnitState, { pool: id, spare, replaces, job }: Of<'spare-took-over'>, happenedAt: string): UnitState | Refusal {
  if (own(unit.pools, id)?.spares.includes(spare) !== true) return refusal('not-a-spare', `${spare} is not a spare of this pool.`, '/spare');
  return startJob(unit, { kind: 'job-started', job, task: 'rebuild', pool: id, replaces, onto: spare }, happenedAt);
}

/** A finished rebuild gives the place of the missing member to the new drive; only now does the margin come back. */
export function finishJob(unit: UnitState, job: Job): UnitState {
  const after = endJob(unit, job.id);
  const pool = unit.pools[job.pool] as Pool;
  const { replaces, onto } = job;
  if (replaces === undefined || onto === undefined) return after;
  return withPool(after, {
    ...pool,
    bands: pool.bands.map((band) => ({ ...band, members: band.members.map((member) => (member === replaces ? onto : member)) })),
    spares: pool.spares.filter((spare) => spare !== onto),
    missing: pool.missing.filter((member) => member !== replaces),
  });
}

export function withJob(unit: UnitState, id: string, change: (job: Job) => UnitState): UnitState | Refusal {
  const job = own(unit.jobs, id);
  return job ? change(job) : refusal('job-unknown', `${unit.name} has no running job ${id}.`, '/job');
}

export function putJob(unit: UnitState, job: Job): UnitState {
  return frozen({ ...unit, jobs: { ...unit.jobs, [job.id]: job } });
}

export function endJob(unit: UnitState, id: string): UnitState {
  const { [id]: _ended, ...jobs } = unit.jobs;
  return frozen({ ...unit, jobs });
}
