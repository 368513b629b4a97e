import { createHash } from 'node:crypto';
import type { Profile } from '../../core/platform/profile';
import type { Refusal } from '../../core/value/refusal';
import { unitLedger } from '../../core/world/ledger';
import type { DriveDescription } from '../../schemas/driveEvent';
import type { Metric } from '../../schemas/metrics';
import { lockLedgers } from '../../store/acts';
import type { Work } from '../../store/database';
import { drawerDrives } from '../../store/driveLives';
import { closeOrder, insertOrder } from '../../store/orders';
import { insertPaper } from '../../store/papers';
import { saveProfile } from '../../store/profiles';
import { addReadings } from '../../store/readings';
import { holdAgainstDrawers } from '../../store/shelf';
import { orderIds, paperIds } from '../../store/takeAway';
import { saveTestedModel } from '../../store/testedModels';
import { unitById, type StoredUnit } from '../../store/units';
import type { App } from '../app';
import { inOnePiece } from '../ledgers/inOnePiece';
import { typeOfBytes } from './paperOperations';
import { bringActs, type ActGiven } from './importActs';
import type { ImportRow } from './importRow';
import { projectReckoned } from '../ledgers/project';

/** An export, as its schema has let it through. */
export interface ExportDocument {
  readonly acts: readonly ActGiven[];
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

async function bringIn(work: Work, document: ExportDocument, by: string): Promise<ImportRow[]> {
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
  const ledgers = await bringActs(work, document.acts);
  rows.push(...ledgers);
  // Everything else hangs on the ledgers.
  if (ledgers.some(({ verdict }) => verdict === 'refused')) return rows;
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
  await holdAgainstDrawers(work, await drawerDrives(work));
  return rows;
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
  const ids = [...new Set(rows.map(([unit]) => unit))].sort();
  await lockLedgers(work, ids.map(unitLedger));
  const units = new Map<string, StoredUnit | undefined>();
  for (const id of ids) units.set(id, await unitById(work, id));
  const stray = rows.findIndex(([unit]) => units.get(unit) === undefined);
  if (stray >= 0) return { what: 'readings', name: `row ${String(stray + 1)}`, verdict: 'refused', detail: `There is no unit ${rows[stray]?.[0] ?? ''}.` };
  const added = await addReadings(
    work,
    rows.map(([unit, subject, metric, at, value]) => ({ unit, subject, metric, at: new Date(at).toISOString(), value })),
  );
  for (const unit of units.values()) if (unit) await projectReckoned(work, unit);
  return { what: 'readings', name: `${String(rows.length)} rows`, verdict: added === 0 ? 'unchanged' : 'added', detail: `${String(added)} are new.` };
}
