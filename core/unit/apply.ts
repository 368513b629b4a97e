import { factsOf } from '../layout/scheme';
import { membersLost } from '../survival/membersLost';
import { frozen } from '../value/frozen';
import { own } from '../value/own';
import { refusal, type Refusal } from '../value/refusal';
import type { UnitEvent } from './event';
import { baysOf, driveInBay, membersOf, poolOfDrive, type DriveInUnit, type Job, type Pool, type UnitState } from './state';

/**
 * The unit after an event. Total over everything that can physically happen, disasters included; refuses only what
 * cannot have happened, such as a drive into an occupied bay.
 *
 * The one model: the ledger folds recorded events through it, the planner intended ones.
 *
 * @param unit `null` before the unit is registered
 * @param happenedAt ISO 8601, UTC
 */
export function apply(unit: UnitState | null, event: UnitEvent, happenedAt: string): UnitState | Refusal {
  if (event.kind === 'unit-registered')
    return unit === null ? register(event, happenedAt) : refusal('already-registered', `${unit.name} is registered already.`);
  if (unit === null) return refusal('not-registered', 'Nothing can happen to a unit before it is registered.');
  switch (event.kind) {
    case 'drive-inserted':
      return insert(unit, event, happenedAt);
    case 'drive-removed':
      return withDrive(unit, event.serial, (drive) => ({ ...drive, bay: null, condition: 'removed' }), true);
    case 'drive-suspected':
      return withDrive(
        unit,
        event.serial,
        (drive) => ({ ...drive, condition: drive.condition === 'well' ? 'suspected' : drive.condition, note: event.note }),
        false,
      );
    case 'drive-failed':
      return withDrive(unit, event.serial, (drive) => ({ ...drive, condition: 'failed', ...(event.note === undefined ? {} : { note: event.note }) }), true);
    case 'drive-taken-out-of-service':
      return withDrive(unit, event.serial, (drive) => ({ ...drive, condition: drive.condition === 'failed' ? 'failed' : 'out-of-service' }), true);
    case 'pool-created':
      return createPool(unit, event, happenedAt);
    case 'job-started':
      return startJob(unit, event, happenedAt);
    case 'job-progressed':
      return withJob(unit, event.job, (job) => putJob(unit, { ...job, percent: event.percent, heardAt: happenedAt }));
    case 'job-finished':
      return withJob(unit, event.job, (job) => finishJob(unit, job));
    case 'job-aborted':
      return withJob(unit, event.job, (job) => endJob(unit, job.id));
  }
}

type Of<K extends UnitEvent['kind']> = Extract<UnitEvent, { kind: K }>;

function register({ name, place, profile, enclosures }: Of<'unit-registered'>, happenedAt: string): UnitState | Refusal {
  const bays = enclosures.flatMap((enclosure) => enclosure.bays);
  const twice = bays.find((bay, index) => bays.indexOf(bay) !== index);
  if (twice !== undefined) return refusal('bay-twice', `Two bays are called ${twice}. Every bay of a unit needs its own name.`, '/enclosures');
  return frozen({ kind: 'unit', name, place, profile, enclosures, drives: {}, pools: {}, jobs: {}, registeredAt: happenedAt });
}

function insert(unit: UnitState, { bay, drive }: Of<'drive-inserted'>, happenedAt: string): UnitState | Refusal {
  if (!baysOf(unit).includes(bay)) return refusal('bay-unknown', `${unit.name} has no bay ${bay}.`, '/bay');
  const there = driveInBay(unit, bay);
  if (there) return refusal('bay-occupied', `Bay ${bay} of ${unit.name} holds ${there.serial}.`, '/bay');
  const before = own(unit.drives, drive.serial);
  if (before?.bay != null) return refusal('drive-elsewhere', `${drive.serial} is in bay ${before.bay} of ${unit.name} already.`, '/drive/serial');
  // A drive that comes back is the same drive; whether its pool takes it in again is another event's matter.
  const standing: DriveInUnit = { kind: 'drive-in-unit', ...drive, bay, condition: 'well', insertedAt: happenedAt };
  return frozen({ ...unit, drives: { ...unit.drives, [drive.serial]: standing } });
}

function withDrive(unit: UnitState, serial: string, change: (drive: DriveInUnit) => DriveInUnit, goesMissing: boolean): UnitState | Refusal {
  const drive = own(unit.drives, serial);
  if (!drive || drive.bay === null) return refusal('drive-not-here', `${serial} is not in any bay of ${unit.name}.`, '/serial');
  const after = { ...unit, drives: { ...unit.drives, [serial]: change(drive) } };
  const pool = poolOfDrive(unit, serial);
  if (!goesMissing || !pool || pool.missing.includes(serial)) return frozen(after);
  return withPool(after, noteLoss({ ...pool, missing: [...pool.missing, serial] }));
}

/** Once a band has lost more than it may, its data is gone, whatever is put back later. */
function noteLoss(pool: Pool): Pool {
  const lost = membersLost(pool.bands, factsOf(pool.scheme).loses, new Set(pool.missing));
  return lost.length === 0 ? pool : { ...pool, lost: [...new Set([...pool.lost, ...lost])] };
}

function createPool(unit: UnitState, event: Of<'pool-created'>, happenedAt: string): UnitState | Refusal {
  const { kind: _kind, pool: id, ...body } = event;
  if (own(unit.pools, id)) return refusal('pool-exists', `${unit.name} has a pool ${id} already.`, '/pool');
  const serials = [...new Set([...body.bands.flatMap(({ members }) => members), ...body.spares])];
  const absent = serials.find((serial) => own(unit.drives, serial)?.bay == null);
  if (absent !== undefined) return refusal('drive-not-here', `${absent} is not in any bay of ${unit.name}.`, '/bands');
  const taken = serials.find((serial) => poolOfDrive(unit, serial));
  if (taken !== undefined) return refusal('drive-in-pool', `${taken} is in another pool of ${unit.name} already.`, '/bands');
  const usable = body.bands.reduce((sum, band) => sum + band.usableBytes, 0);
  if (usable !== body.usableBytes)
    return refusal('bands-inconsistent', `The bands hold ${String(usable)} bytes together, not ${String(body.usableBytes)}.`, '/usableBytes');
  for (const band of body.bands) {
    const most = (band.toBytes - band.fromBytes) * band.members.length;
    if (band.redundancy >= band.members.length || band.usableBytes > most || new Set(band.members).size < band.members.length) {
      return refusal('bands-inconsistent', 'A band holds more than its members, or has fewer members than it may lose.', '/bands');
    }
    const short = band.members.find((serial) => (unit.drives[serial] as DriveInUnit).bytes < band.toBytes);
    if (short !== undefined || band.toBytes <= band.fromBytes) return refusal('band-too-high', `A band reaches higher than ${short ?? 'it starts'}.`, '/bands');
  }
  return withPool(unit, { kind: 'pool', id, ...body, builtAt: happenedAt, missing: [], lost: [] });
}

function startJob(unit: UnitState, event: Of<'job-started'>, happenedAt: string): UnitState | Refusal {
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

/** A finished rebuild gives the place of the missing member to the new drive; only now does the margin come back. */
function finishJob(unit: UnitState, job: Job): UnitState {
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

function withJob(unit: UnitState, id: string, change: (job: Job) => UnitState): UnitState | Refusal {
  const job = own(unit.jobs, id);
  return job ? change(job) : refusal('job-unknown', `${unit.name} has no running job ${id}.`, '/job');
}

function putJob(unit: UnitState, job: Job): UnitState {
  return frozen({ ...unit, jobs: { ...unit.jobs, [job.id]: job } });
}

function endJob(unit: UnitState, id: string): UnitState {
  const { [id]: _ended, ...jobs } = unit.jobs;
  return frozen({ ...unit, jobs });
}

function withPool(unit: UnitState, pool: Pool): UnitState {
  return frozen({ ...unit, pools: { ...unit.pools, [pool.id]: pool } });
}
