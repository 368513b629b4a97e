import type { DriveLife } from '../core/driveLife/life';
import { driveEventWords } from '../core/driveLife/driveEventWords';
import { eventWords } from '../core/record/eventWords';
import { countLives, driveEventsOf, lifeOf, listLives, livesOfLot, type ListedDrive, type PlaceKind } from '../store/driveLives';
import { listOrders, type DriveOrder } from '../store/orders';
import { papersOf, type Paper } from '../store/papers';
import { readingDays, type ReadingDay } from '../store/readings';
import { eventsAbout, unitById, withdrawnEntries } from '../store/units';
import type { Metric } from '../schemas/metrics';
import type { App } from './app';

export type { DriveOrder, PlaceKind };

export interface DriveList {
  readonly drives: readonly ListedDrive[];
  /** How many there are in each kind of place. */
  readonly counts: Readonly<Partial<Record<PlaceKind, number>>>;
}

/** Drives by serial, a page at a time. */
export async function readDrives(app: App, place: PlaceKind | undefined, from: number, most: number): Promise<DriveList> {
  const [drives, counts] = await Promise.all([listLives(app.db, place, from, most), countLives(app.db)]);
  return { drives, counts };
}

/** One line of a drive's life: its own, or its unit's about it. */
export interface DriveLine {
  readonly seq: number;
  readonly happenedAt: string;
  readonly recordedBy: string;
  readonly words: string;
  readonly isWithdrawn: boolean;
  /** Set when a unit says it. */
  readonly unit?: { readonly id: string; readonly name: string };
}

export interface DrivePage {
  readonly version: number;
  readonly life: DriveLife;
  readonly condition: string | null;
  readonly note?: string;
  readonly pool: string | null;
  readonly role: 'member' | 'spare' | 'idle' | null;
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

/** A drive over its life; `null` when nobody knows of it. */
export async function readDrive(app: App, serial: string): Promise<DrivePage | null> {
  const stored = await lifeOf(app.db, serial);
  if (!stored) return null;
  const { life, version } = stored;
  const { where, drive } = life;
  const [own, said, readings, sameLot, papers, unit] = await Promise.all([
    driveEventsOf(app.db, serial),
    eventsAbout(app.db, serial, MOST_ENTRIES),
    readingDays(app.db, serial, MOST_DAYS),
    drive.lot === undefined ? Promise.resolve([]) : livesOfLot(app.db, drive.lot, MOST_SAME_LOT),
    papersOf(app.db, { serial }),
    where.kind === 'bay' ? unitById(app.db, where.unit) : Promise.resolve(undefined),
  ]);
  const withdrawn = new Set(own.flatMap(({ event }) => (event.kind === 'statement-withdrawn' ? event.seq : [])));
  const ids = [...new Set(said.map((entry) => entry.unit))];
  const withdrawnIn = new Map(await Promise.all(ids.map(async (id) => [id, await withdrawnEntries(app.db, id)] as const)));
  const lines: DriveLine[] = [
    // What its unit says in its own words is not said twice.
    ...own
      .filter(({ event }) => event.kind !== 'fitted' && event.kind !== 'taken-out')
      .filter(
        ({ event }) =>
          event.kind !== 'statement-withdrawn' || own.some(({ seq, event: of }) => seq === event.seq && of.kind !== 'fitted' && of.kind !== 'taken-out'),
      )
      .map(({ seq, happenedAt, recordedBy, event }) => ({ seq, happenedAt, recordedBy, words: driveEventWords(event), isWithdrawn: withdrawn.has(seq) })),
    ...said.map(({ seq, happenedAt, recordedBy, event, unit: id, unitName }) => ({
      seq,
      happenedAt,
      recordedBy,
      words: eventWords(event),
      isWithdrawn: withdrawnIn.get(id)?.has(seq) === true,
      unit: { id, name: unitName },
    })),
  ];
  const standing = unit?.state.drives[serial];
  const pool =
    unit && Object.values(unit.state.pools).find(({ spares, bands }) => spares.includes(serial) || bands.some(({ members }) => members.includes(serial)));
  return {
    version,
    life,
    condition: standing?.condition ?? null,
    ...(standing?.note === undefined ? {} : { note: standing.note }),
    pool: pool?.name ?? null,
    role: unit === undefined ? null : !pool ? 'idle' : pool.spares.includes(serial) ? 'spare' : 'member',
    ledger: lines.sort((a, b) => (a.happenedAt < b.happenedAt ? 1 : a.happenedAt > b.happenedAt ? -1 : b.seq - a.seq)),
    readings,
    sameLot: sameLot.filter((other) => other.life.serial !== serial),
    papers,
  };
}

export function readOrders(app: App): Promise<DriveOrder[]> {
  return listOrders(app.db);
}
