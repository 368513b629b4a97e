import { compareBays } from '../core/quantity/bayOrder';
import type { RecordedEvent, UnitEvent } from '../core/unit/event';
import { foldUnit } from '../core/unit/fold';
import { preview, type Hazard } from '../core/unit/preview';
import { poolOfDrive, type UnitState } from '../core/unit/state';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import type { Database, Work } from '../store/database';
import { replaceDrivesOf, standingElsewhere, type StandingDrive } from '../store/drives';
import { appendEvents, eventsOf, forgetProjections, lockUnit, saveSnapshot, unitNamed, unitsInLedger, type StoredUnit } from '../store/units';

export interface Appended {
  readonly kind: 'appended';
  readonly unit: StoredUnit;
  readonly hazards: readonly Hazard[];
}

export interface Entry {
  readonly event: UnitEvent;
  readonly happenedAt: string;
}

/**
 * The one road for a change: every event is previewed against the state, appended with the version its author looked
 * at, and stored with the projections, all in one transaction or not at all.
 *
 * @param expectedVersion 0 for a unit that is not there yet
 * @returns what was appended, or a refusal; `version-conflict` when somebody else was first
 */
export async function append(db: Database, unit: string, expectedVersion: number, entries: readonly Entry[], recordedBy: string): Promise<Appended | Refusal> {
  try {
    return await db.transaction().execute(async (work) => {
      const result = await appendIn(work, unit, expectedVersion, entries, recordedBy);
      // Leaving by an exception is what rolls the transaction back.
      if (isRefusal(result)) throw new Refused(result);
      return result;
    });
  } catch (error) {
    if (error instanceof Refused) return error.refusal;
    if ((error as { code?: string }).code === '23505') return conflictOf(error as { constraint?: string });
    throw error;
  }
}

class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.sentence);
  }
}

async function appendIn(work: Work, id: string, expectedVersion: number, entries: readonly Entry[], recordedBy: string): Promise<Appended | Refusal> {
  const before = await lockUnit(work, id);
  const version = before?.version ?? 0;
  if (version !== expectedVersion) {
    return refusal(
      'version-conflict',
      `Somebody recorded something in the meantime: the unit is at version ${String(version)}, you looked at ${String(expectedVersion)}. Look again.`,
      '/expectedVersion',
    );
  }
  const recorded = entries.map(({ event, happenedAt }, i): RecordedEvent => ({ seq: version + 1 + i, happenedAt, event }));
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

  await appendEvents(work, id, recorded, recordedBy);
  const unit: StoredUnit = { id, version: version + recorded.length, lastHappenedAt: after.lastHappenedAt, state: after.state };
  await project(work, unit);
  return { kind: 'appended', unit, hazards: after.hazards };
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
  if (isLate) {
    const whole = foldUnit([...(await eventsOf(work, id)), ...recorded]);
    return isRefusal(whole) ? whole : { state: whole, lastHappenedAt, hazards: [] };
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

async function project(work: Work, unit: StoredUnit): Promise<void> {
  await saveSnapshot(work, unit);
  await replaceDrivesOf(work, unit.id, standingDrives(unit));
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

/** Forgets every projection and makes them again from the ledger alone. Returns how many units there are. */
export async function rebuildProjections(db: Database): Promise<number> {
  return db.transaction().execute(async (work) => {
    await forgetProjections(work);
    const ids = await unitsInLedger(work);
    for (const id of ids) {
      const events = await eventsOf(work, id);
      const state = foldUnit(events);
      if (isRefusal(state)) throw new Error(`The ledger of unit ${id} does not fold: ${state.sentence}`);
      const lastHappenedAt = events.map(({ happenedAt }) => happenedAt).reduce((a, b) => (a > b ? a : b));
      await project(work, { id, version: events.length, lastHappenedAt, state });
    }
    return ids.length;
  });
}

/** Two at once, past the checks: the database's own constraints have the last word. */
function conflictOf({ constraint }: { constraint?: string }): Refusal {
  if (constraint === 'unit_now_name') return refusal('name-taken', 'Somebody has just put a unit of that name on the shelf.', '/name');
  if (constraint?.startsWith('drive_now') === true)
    return refusal('drive-elsewhere', 'One of these serials has just been recorded in another unit.', '/drives');
  return refusal('version-conflict', 'Somebody recorded something in the same moment. Look again.', '/expectedVersion');
}
