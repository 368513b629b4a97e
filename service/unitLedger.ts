import { foldDrive, NOTHING_HOLDS } from '../core/driveLife/applyToDrive';
import { compareBays } from '../core/quantity/bayOrder';
import { waitsForJob } from '../core/plan/progress';
import { estimateOfJob } from '../core/rebuild/estimateOfJob';
import { eventWords } from '../core/record/eventWords';
import type { RecordedEvent, UnitEvent } from '../core/unit/event';
import { foldUnit } from '../core/unit/fold';
import { difference, preview, type Hazard } from '../core/unit/preview';
import { poolOfDrive, type UnitState } from '../core/unit/state';
import { needsOf } from '../core/upkeep/needsHands';
import { canonicalJson } from '../core/value/canonicalJson';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import type { Database, Work } from '../store/database';
import { drawerDrives, driveEventsOf, drivesInLedger, forgetLives, saveLives } from '../store/driveLives';
import { replaceDrivesOf, standingElsewhere, type StandingDrive } from '../store/drives';
import { growingCounts, rebuildReadings, usedOf } from '../store/readings';
import { holdAgainstDrawers, saveNeeds, saveWaits, type UnitWait } from '../store/shelf';
import {
  appendEvents,
  eventNumbered,
  eventsOf,
  forgetProjections,
  lockUnit,
  saveSnapshot,
  unitNamed,
  unitsInLedger,
  withdrawnEntries,
  type StoredUnit,
} from '../store/units';
import { moveDrives } from './driveLedger';
import { inOnePiece } from './inOnePiece';
import { tellOfWork } from './messages';

export interface Appended {
  readonly kind: 'appended';
  readonly unit: StoredUnit;
  readonly hazards: readonly Hazard[];
}

export interface Entry {
  readonly event: UnitEvent;
  readonly happenedAt: string;
  /** Left out means now; only a past that is made up, as the demo's, says otherwise. */
  readonly recordedAt?: string;
}

/**
 * The one road for a change: every event is previewed against the state, appended with the version its author looked
 * at, and stored with the projections, all in one transaction or not at all.
 *
 * @param expectedVersion 0 for a unit that is not there yet
 * @returns what was appended, or a refusal; `version-conflict` when somebody else was first
 */
export function append(db: Database, unit: string, expectedVersion: number, entries: readonly Entry[], recordedBy: string): Promise<Appended | Refusal> {
  return inOnePiece(db, (work) => appendIn(work, unit, expectedVersion, entries, recordedBy));
}

/** The same inside a transaction that does more. */
export async function appendIn(work: Work, id: string, expectedVersion: number, entries: readonly Entry[], recordedBy: string): Promise<Appended | Refusal> {
  const before = await lockUnit(work, id);
  const version = before?.version ?? 0;
  if (version !== expectedVersion) {
    return refusal('version-conflict', await whoWasFirst(work, id, expectedVersion), '/expectedVersion');
  }
  const recorded = entries.map(({ event, happenedAt }, i): RecordedEvent => ({ seq: version + 1 + i, happenedAt, event }));
  const unwithdrawable = await whyNotWithdrawn(work, id, version, recorded);
  if (unwithdrawable) return unwithdrawable;
  const after = await stateAfter(work, id, before, recorded);
  if (isRefusal(after)) return after;

  const nameTaken = await unitNamed(work, after.state.name);
  if (nameTaken !== undefined && nameTaken !== id) return refusal('name-taken', `There is a unit called ${after.state.name} already.`, '/name');
  const elsewhere = await standingElsewhere(
    work,
    Object.values(after.state.drives).flatMap(({ bay, serial }) => (bay === null ? [] : [serial])),
    id,
  );
  if (elsewhere)
    return refusal('drive-elsewhere', `${elsewhere.serial} stands in bay ${elsewhere.bay} of ${elsewhere.unitName}. A drive is in one place.`, '/drives');

  await appendEvents(
    work,
    id,
    recorded.map((one, i) => ({ ...one, recordedAt: entries[i]?.recordedAt })),
    recordedBy,
  );
  const unit: StoredUnit = { id, version: version + recorded.length, lastHappenedAt: after.lastHappenedAt, state: after.state };
  await project(work, unit);
  await tellOfWork(
    work,
    id,
    before?.state ?? null,
    after.state,
    recorded.map(({ event }) => event),
  );
  const notMoved = await moveDrives(work, id, after.state.name, recorded, recordedBy);
  return notMoved ?? { kind: 'appended', unit, hazards: after.hazards };
}

/** What was recorded since somebody looked, in the words of the ledger. */
async function whoWasFirst(work: Work, id: string, expectedVersion: number): Promise<string> {
  const since = (await eventsOf(work, id, expectedVersion)).slice(-3).map(({ event, recordedBy }) => `“${eventWords(event)}” (${recordedBy})`);
  return `Somebody recorded something in the meantime: ${since.join(', ') || 'the unit is not as you saw it'}. Look again, then decide.`;
}

/** An entry can be withdrawn once, and a withdrawal stands: what was right after all is recorded again. */
async function whyNotWithdrawn(work: Work, id: string, version: number, recorded: readonly RecordedEvent[]): Promise<Refusal | undefined> {
  const already = recorded.some(({ event }) => event.kind === 'statement-withdrawn') ? await withdrawnEntries(work, id) : new Set<number>();
  for (const { event } of recorded) {
    if (event.kind !== 'statement-withdrawn') continue;
    const about = event.seq > version ? undefined : await eventNumbered(work, id, event.seq);
    if (!about) return refusal('entry-unknown', `There is no entry ${String(event.seq)} to withdraw.`, '/seq');
    if (about.event.kind === 'unit-registered')
      return refusal('entry-stands', 'The first entry of a unit cannot be withdrawn: everything after it rests on it.', '/seq');
    if (about.event.kind === 'statement-withdrawn') return refusal('entry-stands', 'A withdrawal stands. Record again what was right after all.', '/seq');
    if (already.has(event.seq)) return refusal('entry-withdrawn', `Entry ${String(event.seq)} is withdrawn already.`, '/seq');
    already.add(event.seq);
  }
  return undefined;
}

/** Event by event through `preview`; a late entry has everything after it folded again. */
async function stateAfter(
  work: Work,
  id: string,
  before: StoredUnit | undefined,
  recorded: readonly RecordedEvent[],
): Promise<{ state: UnitState; lastHappenedAt: string; hazards: Hazard[] } | Refusal> {
  const times = [...(before ? [before.lastHappenedAt] : []), ...recorded.map(({ happenedAt }) => happenedAt)];
  const lastHappenedAt = times.reduce((a, b) => (a > b ? a : b));
  const isLate = times.some((time, i) => i > 0 && time < (times[i - 1] as string));
  if (isLate || recorded.some(({ event }) => event.kind === 'statement-withdrawn')) {
    const whole = foldUnit([...(await eventsOf(work, id)), ...recorded]);
    return isRefusal(whole) ? whole : { state: whole, lastHappenedAt, hazards: [...difference(before?.state ?? null, whole).hazards] };
  }
  let state: UnitState | null = before?.state ?? null;
  const hazards: Hazard[] = [];
  for (const { event, happenedAt } of recorded) {
    const seen = preview(state, event, happenedAt);
    if (isRefusal(seen)) return seen;
    state = seen.after;
    hazards.push(...seen.hazards);
  }
  return state === null ? refusal('nothing-to-record', 'There is nothing to record.') : { state, lastHappenedAt, hazards };
}

/** Writes what is computed of a unit; in the same transaction as the entries that changed it. */
export async function project(work: Work, stored: StoredUnit): Promise<void> {
  const unit = ordered(stored);
  await saveSnapshot(work, unit);
  await replaceDrivesOf(work, unit.id, standingDrives(unit));
  await projectReckoned(work, unit);
}

/** What needs hands at a unit, now or later, and when its work is done; also made again when a reading comes in. */
export async function projectReckoned(work: Work, stored: StoredUnit): Promise<void> {
  const { id, state } = ordered(stored);
  const used = await usedOf(work, id);
  await saveNeeds(work, id, needsOf({ id, state, used, growing: await growingCounts(work, id) }), await drawerDrives(work));
  await saveWaits(work, id, waitsOf(state, used));
}

/** Everything a unit is busy with, and when it will be done. */
function waitsOf(state: UnitState, used: Readonly<Record<string, number>>): UnitWait[] {
  return Object.values(state.jobs).map((job) => ({
    job: job.id,
    task: job.task,
    bay: job.onto === undefined ? null : (state.drives[job.onto]?.bay ?? null),
    percent: job.percent,
    startedAt: job.startedAt,
    heardAt: job.heardAt,
    estimate: estimateOfJob(state, job, used),
    plan: Object.values(state.plans).find((run) => run.ended === undefined && waitsForJob(run, job))?.id ?? null,
  }));
}

/**
 * The database keeps the keys of an object in an order of its own; a state that was just folded has them as things
 * happened. In one order, what is computed of both is the same to the byte.
 */
function ordered(unit: StoredUnit): StoredUnit {
  return { ...unit, state: JSON.parse(canonicalJson(unit.state)) as UnitState };
}

function standingDrives({ id, state }: StoredUnit): StandingDrive[] {
  return Object.values(state.drives)
    .flatMap((drive): StandingDrive[] => {
      if (drive.bay === null) return [];
      const pool = poolOfDrive(state, drive.serial);
      const role = !pool ? 'idle' : pool.spares.includes(drive.serial) ? 'spare' : 'member';
      const { serial, bay, bytes, model = null, condition, insertedAt } = drive;
      return [{ serial, unit: id, bay, bytes, model, condition, pool: pool?.id ?? null, role, insertedAt }];
    })
    .sort((a, b) => compareBays(a.bay, b.bay));
}

/** Forgets every projection and makes them again from the ledgers and readings alone. Returns how many units there are. */
export async function rebuildProjections(db: Database): Promise<number> {
  return db.transaction().execute(async (work) => {
    await forgetProjections(work);
    await rebuildReadings(work);
    const ids = await unitsInLedger(work);
    for (const id of ids) {
      const events = await eventsOf(work, id);
      const state = foldUnit(events);
      if (isRefusal(state)) throw new Error(`The ledger of unit ${id} does not fold: ${state.sentence}`);
      await project(work, { id, version: events.length, lastHappenedAt: lastOf(events), state });
    }
    await forgetLives(work);
    for (const serial of await drivesInLedger(work)) {
      const events = await driveEventsOf(work, serial);
      const life = foldDrive(serial, events);
      if (isRefusal(life) && life.code === NOTHING_HOLDS) continue;
      if (isRefusal(life)) throw new Error(`The ledger of drive ${serial} does not fold: ${life.sentence}`);
      await saveLives(work, [{ version: events.length, lastHappenedAt: lastOf(events), life }]);
    }
    await holdAgainstDrawers(work, await drawerDrives(work));
    return ids.length;
  });
}

function lastOf(events: readonly { readonly happenedAt: string }[]): string {
  return events.map(({ happenedAt }) => happenedAt).reduce((a, b) => (a > b ? a : b));
}
