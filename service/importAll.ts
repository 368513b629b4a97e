import { createHash } from 'node:crypto';
import { foldDrive, NOTHING_HOLDS } from '../core/driveLife/applyToDrive';
import type { DriveEvent } from '../core/driveLife/event';
import type { Profile } from '../core/platform/profile';
import { foldUnit } from '../core/unit/fold';
import type { UnitEvent } from '../core/unit/event';
import { canonicalJson } from '../core/value/canonicalJson';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import type { DriveDescription } from '../schemas/driveEvent';
import type { Metric } from '../schemas/metrics';
import type { Work } from '../store/database';
import { driveEventsOf, saveLives } from '../store/driveLives';
import { standingElsewhere } from '../store/drives';
import { closeOrder, insertOrder } from '../store/orders';
import { insertPaper } from '../store/papers';
import { saveProfile } from '../store/profiles';
import { addReadings } from '../store/readings';
import { keepDriveEvents, keepEvents, orderIds, paperIds, strayDrives, type KeptEntry } from '../store/takeAway';
import { saveTestedModel } from '../store/testedModels';
import { eventsOf, lockUnit, unitNamed } from '../store/units';
import type { App } from './app';
import { inOnePiece } from './inOnePiece';
import { typeOfBytes } from './paperOperations';
import { project, projectReckoned } from './unitLedger';

/** An export, as its schema has let it through. */
export interface ExportDocument {
  readonly units: readonly { readonly id: string; readonly events: readonly KeptEntry<UnitEvent>[] }[];
  readonly drives: readonly { readonly serial: string; readonly events: readonly KeptEntry<DriveEvent>[] }[];
  readonly orders?: readonly {
    readonly id: string;
    readonly orderedAt: string;
    readonly supplier: string;
    readonly count: number;
    readonly drive: DriveDescription;
    readonly expectedOn?: string | null;
    readonly note?: string | null;
    readonly recordedBy: string;
    readonly closed?: string | null;
  }[];
  readonly profiles?: readonly Profile[];
  readonly testedModels?: readonly { readonly model: string; readonly verdict: 'works' | 'avoid'; readonly note?: string | null }[];
  readonly papers?: readonly {
    readonly id: string;
    readonly unit?: string | null;
    readonly serial?: string | null;
    readonly name: string;
    readonly base64: string;
    readonly addedBy: string;
  }[];
  readonly readings?: readonly (readonly [string, string, Metric, string, number])[];
}

/** What bringing one row back comes to. */
export interface ImportRow {
  readonly what: 'unit' | 'drive' | 'order' | 'profile' | 'tested model' | 'paper' | 'readings';
  readonly name: string;
  readonly verdict: 'added' | 'changed' | 'unchanged' | 'refused';
  readonly detail: string;
}

export interface Imported {
  readonly kind: 'imported';
  /** False when it was only tried, or when a row was refused. */
  readonly done: boolean;
  readonly rows: readonly ImportRow[];
}

/** Carries the rows out of a transaction that is to leave nothing behind. */
class NotKept extends Error {
  constructor(readonly rows: readonly ImportRow[]) {
    super('not kept');
  }
}

/**
 * Brings an export back, whole or not at all. Trying it does the same work and leaves nothing behind, so that what is
 * said beforehand is what will happen.
 */
export async function importAll(app: App, document: ExportDocument, by: string, isTrial: boolean): Promise<Imported | Refusal> {
  try {
    return await inOnePiece(app.db, async (work) => {
      const rows = await bringIn(work, document, by);
      if (isTrial || rows.some(({ verdict }) => verdict === 'refused')) throw new NotKept(rows);
      return { kind: 'imported', done: true, rows } satisfies Imported;
    });
  } catch (error) {
    if (error instanceof NotKept) return { kind: 'imported', done: false, rows: error.rows };
    throw error;
  }
}

async function bringIn(work: Work, given: ExportDocument, by: string): Promise<ImportRow[]> {
  const document = { ...given, units: given.units.map(inUtc), drives: given.drives.map(inUtc) };
  const rows: ImportRow[] = [];
  const orders = await orderIds(work);
  for (const { closed, expectedOn = null, note = null, ...order } of document.orders ?? []) {
    const isThere = orders.has(order.id);
    if (!isThere) {
      await insertOrder(work, { ...order, expectedOn, note });
      if (closed != null) await closeOrder(work, order.id, closed, by);
    }
    rows.push({
      what: 'order',
      name: `${String(order.count)} from ${order.supplier}`,
      verdict: isThere ? 'unchanged' : 'added',
      detail: order.orderedAt.slice(0, 10),
    });
  }
  const seen = new Set<string>();
  for (const drive of document.drives) {
    rows.push(seen.has(drive.serial) ? twice('drive', drive.serial) : await bringDrive(work, drive));
    seen.add(drive.serial);
  }
  for (const unit of document.units) {
    rows.push(seen.has(unit.id) ? twice('unit', unit.id) : await bringUnit(work, unit));
    seen.add(unit.id);
  }
  // Only now is everything where it will be: a drive may have moved from one of these units to another.
  for (const { id, events } of document.units) {
    const strays = await strayDrives(work, id);
    const first = events[0]?.event;
    if (strays.length > 0)
      rows.push({
        what: 'unit',
        name: first?.kind === 'unit-registered' ? first.name : id,
        verdict: 'refused',
        detail: `${strays.join(', ')} would stand in its bays, and not by their own ledgers.`,
      });
  }
  for (const profile of document.profiles ?? []) {
    await saveProfile(work, profile, by);
    rows.push({ what: 'profile', name: profile.name, verdict: 'changed', detail: profile.id });
  }
  for (const { model, verdict, note = null } of document.testedModels ?? []) {
    await saveTestedModel(work, { model, verdict, note }, by);
    rows.push({ what: 'tested model', name: model, verdict: 'changed', detail: verdict });
  }
  const papers = new Set(await paperIds(work));
  for (const paper of document.papers ?? []) rows.push(await bringPaper(work, paper, papers.has(paper.id)));
  if ((document.readings?.length ?? 0) > 0) rows.push(await bringReadings(work, document));
  return rows;
}

/** Times as the ledger writes them: a file may name any zone, and entries are ordered by the text. */
function inUtc<L extends { readonly events: readonly KeptEntry<unknown>[] }>(ledger: L): L {
  const utc = (time: string): string => new Date(time).toISOString();
  return { ...ledger, events: ledger.events.map((entry) => ({ ...entry, happenedAt: utc(entry.happenedAt), recordedAt: utc(entry.recordedAt) })) };
}

function twice(what: 'unit' | 'drive', name: string): ImportRow {
  return { what, name, verdict: 'refused', detail: 'It is in the file twice.' };
}

async function bringUnit(work: Work, { id, events }: ExportDocument['units'][number]): Promise<ImportRow> {
  const state = foldUnit(events);
  const first = events[0]?.event;
  const name = isRefusal(state) ? (first?.kind === 'unit-registered' ? first.name : id) : state.name;
  const row = (verdict: ImportRow['verdict'], detail: string): ImportRow => ({ what: 'unit', name, verdict, detail });
  if (isRefusal(state)) return row('refused', state.sentence);
  const before = (await lockUnit(work, id)) ? await eventsOf(work, id) : [];
  const common = continues(before, events);
  if (isRefusal(common)) return row('refused', common.sentence);
  if (common === 'older') return row('unchanged', `${String(before.length)} entries are here, ${String(events.length)} in the file.`);
  const taken = await unitNamed(work, state.name);
  if (taken !== undefined && taken !== id) return row('refused', `There is another unit called ${state.name}.`);
  const standing = Object.values(state.drives).flatMap(({ bay, serial }) => (bay === null ? [] : serial));
  const elsewhere = await standingElsewhere(work, standing, id);
  if (elsewhere) return row('refused', `${elsewhere.serial} stands in bay ${elsewhere.bay} of ${elsewhere.unitName}.`);
  const fresh = events.slice(before.length);
  await keepEvents(work, id, fresh);
  await project(work, { id, version: events.length, lastHappenedAt: latest(events), state });
  return row(before.length === 0 ? 'added' : 'changed', `${String(fresh.length)} ${fresh.length === 1 ? 'entry' : 'entries'}.`);
}

async function bringDrive(work: Work, { serial, events }: ExportDocument['drives'][number]): Promise<ImportRow> {
  const row = (verdict: ImportRow['verdict'], detail: string): ImportRow => ({ what: 'drive', name: serial, verdict, detail });
  const life = foldDrive(serial, events);
  if (isRefusal(life) && life.code !== NOTHING_HOLDS) return row('refused', life.sentence);
  const before = await driveEventsOf(work, serial);
  const common = continues(before, events);
  if (isRefusal(common)) return row('refused', common.sentence);
  if (common === 'older') return row('unchanged', `${String(before.length)} entries are here, ${String(events.length)} in the file.`);
  const fresh = events.slice(before.length);
  await keepDriveEvents(work, serial, fresh);
  if (!isRefusal(life)) await saveLives(work, [{ version: events.length, lastHappenedAt: latest(events), life }]);
  return row(before.length === 0 ? 'added' : 'changed', `${String(fresh.length)} ${fresh.length === 1 ? 'entry' : 'entries'}.`);
}

/** Whether a ledger goes on where ours ends (`newer`), or ends before (`older`); two that part company are refused. */
function continues<E>(here: readonly KeptEntry<E>[], there: readonly KeptEntry<E>[]): 'newer' | 'older' | Refusal {
  const gap = there.findIndex(({ seq }, i) => seq !== i + 1);
  if (gap >= 0) return refusal('ledger-gap', `Its entries are not numbered on: after ${String(gap)} comes ${String(there[gap]?.seq ?? 0)}.`);
  const shared = Math.min(here.length, there.length);
  const text = ({ happenedAt, event }: KeptEntry<E>): string => canonicalJson({ happenedAt, event });
  for (let i = 0; i < shared; i++)
    if (text(here[i] as KeptEntry<E>) !== text(there[i] as KeptEntry<E>))
      return refusal('ledger-parts', `Entry ${String(i + 1)} says something else here than in the file: two ledgers that have parted cannot be joined.`);
  return there.length > here.length ? 'newer' : 'older';
}

function latest(events: readonly { readonly happenedAt: string }[]): string {
  return events.map(({ happenedAt }) => happenedAt).reduce((a, b) => (a > b ? a : b));
}

async function bringPaper(work: Work, paper: NonNullable<ExportDocument['papers']>[number], isThere: boolean): Promise<ImportRow> {
  const { id, unit = null, serial = null, name, base64, addedBy } = paper;
  const row = (verdict: ImportRow['verdict'], detail: string): ImportRow => ({ what: 'paper', name, verdict, detail });
  if (isThere) return row('unchanged', 'It is here already.');
  const bytes = Buffer.from(base64, 'base64');
  const type = typeOfBytes(bytes);
  if (type === null || bytes.length === 0) return row('refused', 'It is neither a picture, nor a PDF, nor text.');
  if (unit === null && serial === null) return row('refused', 'It belongs to nothing.');
  await insertPaper(work, { id, unit, serial, name, type, size: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex'), addedBy }, bytes);
  return row('added', `${String(Math.ceil(bytes.length / 1000))} kB.`);
}

async function bringReadings(work: Work, document: ExportDocument): Promise<ImportRow> {
  const rows = document.readings ?? [];
  const units = new Map<string, Awaited<ReturnType<typeof lockUnit>>>();
  for (const id of [...new Set(rows.map(([unit]) => unit))].sort()) units.set(id, await lockUnit(work, id));
  const stray = rows.findIndex(([unit]) => units.get(unit) === undefined);
  if (stray >= 0) return { what: 'readings', name: `row ${String(stray + 1)}`, verdict: 'refused', detail: `There is no unit ${rows[stray]?.[0] ?? ''}.` };
  const added = await addReadings(
    work,
    rows.map(([unit, subject, metric, at, value]) => ({ unit, subject, metric, at: new Date(at).toISOString(), value })),
  );
  for (const unit of units.values()) if (unit) await projectReckoned(work, unit);
  return { what: 'readings', name: `${String(rows.length)} rows`, verdict: added === 0 ? 'unchanged' : 'added', detail: `${String(added)} are new.` };
}
