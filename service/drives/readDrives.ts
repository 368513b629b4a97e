import { roleOf, roleWords, type DriveRole } from '../../core/unit/roleOf';
import { poolOfDrive } from '../../core/unit/state';
import { serialKey } from '../../core/drive/serial';
import type { DriveEvent } from '../../core/driveLife/event';
import type { UnitEvent } from '../../core/unit/event';
import { driveLedger } from '../../core/world/ledger';
import type { DriveLife } from '../../core/driveLife/life';
import { driveEventWords, whereWords } from '../../core/driveLife/driveEventWords';
import { eventWords } from '../../core/record/eventWords';
import {
  countListed,
  countLives,
  DRIVE_COLUMNS,
  lifeOf,
  listLives,
  livesHolding,
  livesOfLot,
  type DriveColumn,
  type DriveOrdered,
  type ListedDrive,
  type PlaceKind,
} from '../../store/driveLives';
import { listOrders, type DriveOrder } from '../../store/orders';
import { papersOf, type Paper } from '../../store/papers';
import { readingDays, type ReadingDay } from '../../store/readings';
import { entriesAbout, entriesOf, takenBackActs } from '../../store/acts';
import { unitById } from '../../store/units';
import type { Metric } from '../../schemas/metrics';
import type { App } from '../app';

export { DRIVE_COLUMNS };
export type { DriveColumn, DriveOrder, ListedDrive, PlaceKind };

/** How many of a place have these words in them. */
export function countFound(app: App, place: PlaceKind | undefined, words: string): Promise<number> {
  return countListed(app.db, place, words);
}

export interface DriveList {
  readonly drives: readonly ListedDrive[];
  /** How many there are in each kind of place. */
  readonly counts: Readonly<Partial<Record<PlaceKind, number>>>;
}

/** Drives, a page at a time: by serial, or as asked. */
export async function readDrives(
  app: App,
  place: PlaceKind | undefined,
  from: number,
  most: number,
  order?: DriveOrdered,
): Promise<DriveList> {
  const [drives, counts] = await Promise.all([listLives(app.db, place, from, most, order), countLives(app.db)]);
  return { drives, counts };
}

/** One line of a drive's life: its own, or its unit's about it. */
export interface DriveLine {
  readonly seq: number;
  readonly act: string;
  readonly happenedAt: string;
  readonly recordedBy: string;
  readonly words: string;
  /** Why it does not count any more, where it does not. */
  readonly withdrawnFor?: string;
  /** Set when a unit says it. */
  readonly unit?: { readonly id: string; readonly name: string };
}

export interface DrivePage {
  readonly version: number;
  readonly life: DriveLife;
  readonly condition: string | null;
  readonly note?: string;
  readonly pool: string | null;
  readonly role: DriveRole | null;
  /** Both in words; `null` for one that stands in no unit. */
  readonly partOf: string | null;
  /** Newest first. */
  readonly ledger: readonly DriveLine[];
  readonly readings: Readonly<Partial<Record<Metric, ReadingDay[]>>>;
  readonly sameLot: readonly ListedDrive[];
  readonly papers: readonly Paper[];
}

/** Entries of units about a drive that its page shows. */
const MOST_ENTRIES = 200;
const MOST_DAYS = 800;
const MOST_SAME_LOT = 60;
const NO_BOXES = { enclosures: [] };

/** A drive over its life; `null` when nobody knows of it. */
export async function readDrive(app: App, named: string): Promise<DrivePage | null> {
  const serial = serialKey(named);
  const stored = await lifeOf(app.db, serial);
  if (!stored) return null;
  const { life, version } = stored;
  const { where, drive } = life;
  const [own, said, readings, sameLot, papers, unit] = await Promise.all([
    entriesOf<DriveEvent>(app.db, driveLedger(serial)),
    entriesAbout(app.db, serial, MOST_ENTRIES),
    readingDays(app.db, serial, MOST_DAYS),
    drive.lot === undefined ? Promise.resolve([]) : livesOfLot(app.db, drive.lot, MOST_SAME_LOT),
    papersOf(app.db, { serial }),
    where.kind === 'bay' ? unitById(app.db, where.unit) : Promise.resolve(undefined),
  ]);
  const takenBack = await takenBackActs(app.db, driveLedger(serial));
  // In every unit it has stood in, by the trays of that unit.
  const units = await Promise.all([...new Set(said.map(({ unit: id }) => id))].map((id) => unitById(app.db, id)));
  const boxes = new Map(units.flatMap((one) => (one ? [[one.id, one.state] as const] : [])));
  const ofUnits = new Set(
    own.flatMap(({ event, act }) => (event.kind === 'fitted' || event.kind === 'taken-out' ? act : [])),
  );
  const lines: DriveLine[] = [
    // What its unit says in its own words is not said twice.
    ...own
      .filter(({ event, act }) => !ofUnits.has(act) && !(event.kind === 'taken-back' && ofUnits.has(event.act)))
      .map(({ seq, act, happenedAt, recordedBy, event }) => ({
        seq,
        act,
        happenedAt,
        recordedBy,
        words: driveEventWords(event),
        ...because(takenBack.get(act)),
      })),
    ...said.map(({ seq, act, happenedAt, recordedBy, event, unit: id, unitName, takenBackFor }) => ({
      seq,
      act,
      happenedAt,
      recordedBy,
      words: eventWords(event as UnitEvent, boxes.get(id) ?? NO_BOXES),
      ...because(takenBackFor),
      unit: { id, name: unitName },
    })),
  ];
  const standing = unit?.state.drives[serial];
  const pool = unit && poolOfDrive(unit.state, serial);
  return {
    version,
    life,
    condition: standing?.condition ?? null,
    ...(standing?.note === undefined ? {} : { note: standing.note }),
    pool: pool?.name ?? null,
    role: unit === undefined ? null : roleOf(unit.state, serial),
    partOf: unit === undefined ? null : roleWords(unit.state, serial),
    ledger: lines.sort((a, b) => (a.happenedAt < b.happenedAt ? 1 : a.happenedAt > b.happenedAt ? -1 : b.seq - a.seq)),
    readings,
    sameLot: sameLot.filter((other) => other.life.serial !== serial),
    papers,
  };
}

export function readOrders(app: App): Promise<DriveOrder[]> {
  return listOrders(app.db);
}

function because(withdrawnFor: string | null | undefined): Pick<DriveLine, 'withdrawnFor'> {
  return withdrawnFor == null ? {} : { withdrawnFor };
}

/** A drive that came out of a unit with its data on it, and was not emptied since. */
export interface HoldingDrive {
  readonly serial: string;
  /** The pool whose data it is. */
  readonly pool: string;
  /** Where it is now, in words. */
  readonly where: string;
}

/** What a unit leaves behind when it goes: drives that still hold its data, wherever they are, gone ones too. */
export async function readHolding(app: App, unit: string): Promise<readonly HoldingDrive[]> {
  return (await livesHolding(app.db, unit)).map(({ serial, holds, where }) => ({
    serial,
    pool: holds?.name ?? '',
    where: whereWords(where),
  }));
}
