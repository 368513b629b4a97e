import { applyToDrive, foldDrive, NOTHING_HOLDS } from '../core/driveLife/applyToDrive';
import type { DriveEvent, RecordedDriveEvent } from '../core/driveLife/event';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import type { RecordedEvent } from '../core/unit/event';
import type { Database, Work } from '../store/database';
import {
  appendDriveEvents,
  causedBy,
  drawerDrives,
  driveEventsOf,
  forgetLife,
  ledgerLengths,
  lockLives,
  saveLives,
  type StoredLife,
} from '../store/driveLives';
import { holdAgainstDrawers } from '../store/shelf';
import { eventNumbered } from '../store/units';
import { inOnePiece } from './inOnePiece';

export interface DriveEntry {
  readonly serial: string;
  readonly event: DriveEvent;
  readonly happenedAt: string;
}

/**
 * Appends to drives' own ledgers, in one transaction or not at all.
 *
 * @param expectedVersion of a single drive, as its author looked at it; left out where nobody looked at one before
 */
export function appendToDrives(db: Database, entries: readonly DriveEntry[], recordedBy: string, expectedVersion?: number): Promise<StoredLife[] | Refusal> {
  return inOnePiece(db, (work) => appendDrivesIn(work, entries, recordedBy, expectedVersion));
}

export async function appendDrivesIn(
  work: Work,
  entries: readonly DriveEntry[],
  recordedBy: string,
  expectedVersion?: number,
): Promise<StoredLife[] | Refusal> {
  const serials = [...new Set(entries.map(({ serial }) => serial))].sort();
  const before = await lockLives(work, serials);
  const lengths = await ledgerLengths(
    work,
    serials.filter((serial) => !before.has(serial)),
  );
  const appended: { serial: string; recorded: RecordedDriveEvent }[] = [];
  const lives: StoredLife[] = [];
  for (const serial of serials) {
    const was = before.get(serial);
    const version = was?.version ?? lengths.get(serial) ?? 0;
    if (expectedVersion !== undefined && version !== expectedVersion)
      return refusal('version-conflict', `Somebody recorded something of ${serial} in the meantime. Look again.`, '/expectedVersion');
    const recorded = entries
      .filter((entry) => entry.serial === serial)
      .map(({ event, happenedAt }, i): RecordedDriveEvent => ({ seq: version + 1 + i, happenedAt, event }));
    const next = await lifeAfter(work, serial, was, version, recorded);
    if (isRefusal(next)) return next;
    if (next === null) await forgetLife(work, serial);
    else lives.push(next);
    appended.push(...recorded.map((one) => ({ serial, recorded: one })));
  }
  await appendDriveEvents(work, appended, recordedBy);
  await saveLives(work, lives);
  if ([...before.values(), ...lives].some(({ life }) => life.where.kind === 'drawer')) await holdAgainstDrawers(work, await drawerDrives(work));
  return lives;
}

/** The life with what is recorded now; `null` when everything that was said of the drive is withdrawn. */
async function lifeAfter(
  work: Work,
  serial: string,
  was: StoredLife | undefined,
  before: number,
  recorded: readonly RecordedDriveEvent[],
): Promise<StoredLife | Refusal | null> {
  const times = [...(was ? [was.lastHappenedAt] : []), ...recorded.map(({ happenedAt }) => happenedAt)];
  const lastHappenedAt = times.reduce((a, b) => (a > b ? a : b));
  const version = before + recorded.length;
  const isLate =
    (was === undefined && before > 0) ||
    times.some((time, i) => i > 0 && time < (times[i - 1] as string)) ||
    recorded.some(({ event }) => event.kind === 'statement-withdrawn');
  if (isLate) {
    const life = foldDrive(serial, [...(await driveEventsOf(work, serial)), ...recorded]);
    if (!isRefusal(life)) return { version, lastHappenedAt, life };
    return life.code === NOTHING_HOLDS ? null : life;
  }
  let life = was?.life ?? null;
  for (const { event, happenedAt } of recorded) {
    const next = applyToDrive(serial, life, event, happenedAt);
    if (isRefusal(next)) return next;
    life = next;
  }
  return life === null ? refusal('nothing-to-record', 'There is nothing to record.') : { version, lastHappenedAt, life };
}

/**
 * What entries of a unit's ledger mean for the ledgers of the drives they move: into a bay, out of it, or that it was
 * not so. Written in the same transaction, so that a drive is never in two places or in none.
 */
export async function moveDrives(
  work: Work,
  unit: string,
  unitName: string,
  recorded: readonly RecordedEvent[],
  recordedBy: string,
): Promise<Refusal | undefined> {
  const entries: DriveEntry[] = [];
  for (const { seq, event, happenedAt } of recorded) {
    if (event.kind === 'drive-inserted') {
      const { serial, ...drive } = event.drive;
      entries.push({ serial, happenedAt, event: { kind: 'fitted', unit, unitName, bay: event.bay, drive, entry: seq } });
    }
    if (event.kind === 'drive-removed') entries.push({ serial: event.serial, happenedAt, event: { kind: 'taken-out', unit, entry: seq } });
    if (event.kind === 'statement-withdrawn') {
      const about = (await eventNumbered(work, unit, event.seq))?.event;
      const serial = about?.kind === 'drive-inserted' ? about.drive.serial : about?.kind === 'drive-removed' ? about.serial : undefined;
      const caused = serial === undefined ? undefined : await causedBy(work, serial, unit, event.seq);
      if (serial !== undefined && caused !== undefined)
        entries.push({ serial, happenedAt, event: { kind: 'statement-withdrawn', seq: caused, reason: event.reason } });
    }
  }
  if (entries.length === 0) return undefined;
  const moved = await appendDrivesIn(work, entries, recordedBy);
  return isRefusal(moved) ? moved : undefined;
}
