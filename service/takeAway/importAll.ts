import { whyNotMeasured } from '../../core/observe/whyNotMeasured';
import { isTimeZone } from '../../core/quantity/timeZone';
import { createHash } from 'node:crypto';
import type { Profile } from '../../core/platform/profile';
import { entryOf } from '../../core/value/entryOf';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { serialKey } from '../../core/drive/serial';
import { whyNotQuiet } from '../../core/tell/quietHours';
import { driveLedger, unitLedger } from '../../core/world/ledger';
import type { DriveDescription } from '../../schemas/driveEvent';
import type { PriceList } from '../../schemas/priceList';
import type { Metric } from '../../schemas/metrics';
import { loadLedgers, lockLedgers } from '../../store/acts';
import { allComparisons, insertComparison } from '../../store/comparisons';
import { bringFeed, type Feed } from '../../store/feeds';
import { organisation, saveOrganisation } from '../../store/organisation';
import type { Transaction } from '../../store/database';
import { drawerDrives } from '../../store/driveLives';
import { closeOrder, insertOrder } from '../../store/orders';
import { insertPaper } from '../../store/papers';
import { priceList, savePriceList } from '../../store/prices';
import { saveProfile } from '../../store/profiles';
import { addReadings } from '../../store/readings';
import { holdAgainstDrawers } from '../../store/shelf';
import { orderIds, paperIds } from '../../store/takeAway';
import { bringRule, type MailRule } from '../../store/tellRules';
import { saveTestedModel } from '../../store/testedModels';
import { unitById, type StoredUnit } from '../../store/units';
import type { App } from '../app';
import type { Comparison } from '../bench/comparisons';
import { inTransaction } from '../ledgers/inTransaction';
import { typeOfBytes } from './paperOperations';
import { bringActs, type ActGiven } from './importActs';
import type { ImportRow } from './importRow';
import { momentOf } from '../door/moment';
import { projectReckoned, reckonWaits } from '../ledgers/project';

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
  readonly testedModels?: readonly {
    readonly model: string;
    readonly verdict: 'works' | 'avoid';
    readonly note?: string | null;
  }[];
  readonly papers?: readonly {
    readonly id: string;
    readonly unit?: string | null;
    readonly serial?: string | null;
    readonly name: string;
    readonly base64: string;
    readonly addedBy: string;
    readonly addedAt?: string;
  }[];
  readonly organisation?: { readonly name: string; readonly currency: string; readonly timeZone?: string };
  readonly prices?: { readonly list: PriceList; readonly setBy: string; readonly setAt: string };
  readonly comparisons?: readonly {
    readonly id: string;
    readonly comparison: Comparison;
    readonly keptBy: string;
    readonly keptAt: string;
  }[];
  readonly calendars?: readonly Feed[];
  readonly rules?: readonly MailRule[];
  readonly readings?: readonly (readonly [string, string, Metric, string, number])[];
}

export interface Imported {
  readonly kind: 'imported';
  /** False when it was only tried, or when a row was refused. */
  readonly done: boolean;
  readonly rows: readonly ImportRow[];
}

/** Who brings it back, and when. */
interface Bringing {
  readonly by: string;
  readonly now: Date;
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
export async function importAll(
  app: App,
  document: ExportDocument,
  { isTrial, ...bringing }: Bringing & { readonly isTrial: boolean },
): Promise<Imported | Refusal> {
  try {
    return await inTransaction(app.db, async (tx) => {
      const rows = await bringIn(tx, document, bringing);
      if (isTrial || rows.some(({ verdict }) => verdict === 'refused')) throw new NotKept(rows);
      return { kind: 'imported', done: true, rows } satisfies Imported;
    });
  } catch (error) {
    if (error instanceof NotKept) return { kind: 'imported', done: false, rows: error.rows };
    throw error;
  }
}

async function bringIn(tx: Transaction, document: ExportDocument, { by, now }: Bringing): Promise<ImportRow[]> {
  const early = notYet(document, now);
  if (early.length > 0) return early;
  const rows: ImportRow[] = [];
  const orders = await orderIds(tx);
  for (const { closed, expectedOn = null, note = null, ...order } of document.orders ?? []) {
    const isThere = orders.has(order.id);
    if (!isThere) {
      await insertOrder(tx, { ...order, expectedOn, note });
      if (closed != null) await closeOrder(tx, order.id, closed, by);
    }
    rows.push({
      what: 'order',
      name: `${String(order.count)} from ${order.supplier}`,
      verdict: isThere ? 'unchanged' : 'added',
      detail: order.orderedAt.slice(0, 10),
    });
  }
  const ledgers = await bringActs(tx, document.acts, now);
  rows.push(...ledgers);
  // Everything else hangs on the ledgers.
  if (ledgers.some(({ verdict }) => verdict === 'refused')) return rows;
  for (const profile of document.profiles ?? []) {
    await saveProfile(tx, profile, by);
    rows.push({ what: 'profile', name: profile.name, verdict: 'changed', detail: profile.id });
  }
  for (const { model, verdict, note = null } of document.testedModels ?? []) {
    await saveTestedModel(tx, { model, verdict, note }, by);
    rows.push({ what: 'tested model', name: model, verdict: 'changed', detail: verdict });
  }
  rows.push(
    ...(await bringOrganisation(tx, document)),
    ...(await bringPrices(tx, document)),
    ...(await bringComparisons(tx, document)),
    ...(await bringCalendars(tx, document)),
    ...(await bringRules(tx, document, by)),
  );
  const papers = new Set(await paperIds(tx));
  for (const paper of document.papers ?? []) rows.push(await bringPaper(tx, paper, papers.has(paper.id)));
  if ((document.readings?.length ?? 0) > 0) rows.push(await bringReadings(tx, document));
  await holdAgainstDrawers(tx, await drawerDrives(tx));
  await reckonWaits(tx);
  return rows;
}

/** What the file dates after now, a row each kind: no order, paper or reading is of tomorrow. */
function notYet(
  { orders = [], papers = [], prices, comparisons = [], calendars = [], readings = [] }: ExportDocument,
  now: Date,
): ImportRow[] {
  const dated: readonly (readonly [ImportRow['what'], readonly (string | undefined)[]])[] = [
    ['order', orders.map(({ orderedAt }) => orderedAt)],
    ['paper', papers.map(({ addedAt }) => addedAt)],
    ['prices', [prices?.setAt]],
    ['comparison', comparisons.map(({ keptAt }) => keptAt)],
    ['calendar', calendars.map(({ madeAt }) => madeAt)],
    ['readings', readings.map(([, , , at]) => at)],
  ];
  return dated.flatMap(([what, times]): ImportRow[] => {
    const i = times.findIndex((at) => at !== undefined && isRefusal(momentOf(at, now)));
    return i < 0
      ? []
      : [
          {
            what,
            name: `row ${String(i + 1)}`,
            verdict: 'refused',
            detail: `${times[i] ?? ''} has not come yet, or was before there were such units.`,
          },
        ];
  });
}

async function bringPaper(
  tx: Transaction,
  paper: NonNullable<ExportDocument['papers']>[number],
  isThere: boolean,
): Promise<ImportRow> {
  const { id, unit = null, serial = null, name, base64, addedBy, addedAt } = paper;
  const row = (verdict: ImportRow['verdict'], detail: string): ImportRow => ({ what: 'paper', name, verdict, detail });
  if (isThere) return row('unchanged', 'It is here already.');
  const bytes = Buffer.from(base64, 'base64');
  const type = typeOfBytes(bytes);
  if (type === null || bytes.length === 0) return row('refused', 'It is neither a picture, nor a PDF, nor text.');
  // Kept with what there is, or was: of a unit that was taken back the papers stay.
  const of = unit !== null ? unitLedger(unit) : serial !== null ? driveLedger(serialKey(serial)) : null;
  if (of === null || (unit !== null && serial !== null))
    return row('refused', 'It belongs to one thing: a unit, or a drive.');
  if (((await loadLedgers(tx, [of]))[0]?.version ?? 0) === 0)
    return row('refused', `There is no ${of.kind} ${of.id} it could belong to.`);
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const added = addedAt === undefined ? {} : { addedAt };
  await insertPaper(
    tx,
    { id, unit, serial: unit === null ? of.id : null, name, type, size: bytes.length, sha256, addedBy, ...added },
    bytes,
  );
  return row('added', `${String(Math.ceil(bytes.length / 1000))} kB.`);
}

/** What the shelf is called is its own, once it is called something. */
async function bringOrganisation(tx: Transaction, { organisation: given }: ExportDocument): Promise<ImportRow[]> {
  if (!given) return [];
  if (given.timeZone !== undefined && !isTimeZone(given.timeZone))
    return [
      {
        what: 'organisation',
        name: given.name,
        verdict: 'refused',
        detail: `No time zone is called ${given.timeZone}.`,
      },
    ];
  const here = await organisation(tx);
  const isNew = here.name === '';
  if (isNew) await saveOrganisation(tx, { ...here, ...given });
  return [
    {
      what: 'organisation',
      name: given.name,
      verdict: isNew ? 'added' : 'unchanged',
      detail: isNew ? given.currency : `This shelf is that of ${here.name}.`,
    },
  ];
}

/** What drives cost is written down here, or comes along. */
async function bringPrices(tx: Transaction, { prices }: ExportDocument): Promise<ImportRow[]> {
  if (!prices) return [];
  const isNew = (await priceList(tx)) === undefined;
  if (isNew) await savePriceList(tx, { body: prices.list, setBy: prices.setBy, setAt: prices.setAt });
  return [
    {
      what: 'prices',
      name: `of ${String(prices.list.prices.length)} sizes`,
      verdict: isNew ? 'added' : 'unchanged',
      detail: isNew ? prices.setBy : 'What drives cost is written down here.',
    },
  ];
}

async function bringComparisons(tx: Transaction, { comparisons = [] }: ExportDocument): Promise<ImportRow[]> {
  const here = new Set((await allComparisons(tx)).map(({ id }) => id));
  const rows: ImportRow[] = [];
  for (const { id, comparison, keptBy, keptAt } of comparisons) {
    const isThere = here.has(id);
    if (!isThere) await insertComparison(tx, { id, name: comparison.name.trim(), body: comparison, keptBy, keptAt });
    rows.push({ what: 'comparison', name: comparison.name, verdict: isThere ? 'unchanged' : 'added', detail: keptBy });
  }
  return rows;
}

/** People do not travel; whoever is here under the same e-mail keeps the address they had. */
async function bringCalendars(tx: Transaction, { calendars = [] }: ExportDocument): Promise<ImportRow[]> {
  const rows: ImportRow[] = [];
  for (const feed of calendars) {
    const came = await bringFeed(tx, feed);
    const detail = {
      added: 'Their calendar address works here too.',
      there: 'They have an address here.',
      nobody: 'Nobody of that e-mail is here: left out.',
    }[came];
    rows.push({ what: 'calendar', name: feed.person, verdict: came === 'added' ? 'added' : 'unchanged', detail });
  }
  return rows;
}

/** Who was told of what by mail is told again, where they are here. */
async function bringRules(tx: Transaction, { rules = [] }: ExportDocument, by: string): Promise<ImportRow[]> {
  const rows: ImportRow[] = [];
  for (const rule of rules) {
    const wrong = whyNotQuiet(rule.quiet);
    if (wrong) {
      rows.push({ what: 'rule', name: rule.person, verdict: 'refused', detail: wrong.sentence });
      continue;
    }
    const came = await bringRule(tx, rule, by);
    const detail = {
      added: 'They are told by mail as before.',
      there: 'It is here already.',
      nobody: 'Nobody of that e-mail is here: left out.',
    }[came];
    rows.push({ what: 'rule', name: rule.person, verdict: came === 'added' ? 'added' : 'unchanged', detail });
  }
  return rows;
}

async function bringReadings(tx: Transaction, document: ExportDocument): Promise<ImportRow> {
  const rows = document.readings ?? [];
  const ids = [...new Set(rows.map(([unit]) => unit))].sort();
  await lockLedgers(tx, ids.map(unitLedger));
  const units = new Map<string, StoredUnit | undefined>();
  for (const id of ids) units.set(id, await unitById(tx, id));
  const stray = rows.findIndex(([unit]) => units.get(unit) === undefined);
  if (stray >= 0)
    return {
      what: 'readings',
      name: `row ${String(stray + 1)}`,
      verdict: 'refused',
      detail: `There is no unit ${rows[stray]?.[0] ?? ''}.`,
    };
  // What an older shelf took and nobody can have measured does not keep the rest out.
  const wrong = rows.flatMap(([unit, subject, metric, , value], i) => {
    const pool = entryOf(units.get(unit)?.state.pools ?? {}, subject);
    const why = whyNotMeasured(metric, value, pool?.shownBytes);
    return why === null ? [] : [{ i, why }];
  });
  const isWrong = new Set(wrong.map(({ i }) => i));
  const added = await addReadings(
    tx,
    rows
      .filter((_, i) => !isWrong.has(i))
      .map(([unit, subject, metric, at, value]) => ({
        unit,
        subject,
        metric,
        at: new Date(at).toISOString(),
        value,
      })),
  );
  for (const unit of units.values()) if (unit) await projectReckoned(tx, unit);
  return {
    what: 'readings',
    name: `${String(rows.length)} rows`,
    verdict: added === 0 ? 'unchanged' : 'added',
    detail: `${String(added)} are new.${wrong[0] ? ` Left out: ${String(wrong.length)}, the first in row ${String(wrong[0].i + 1)}. ${wrong[0].why}` : ''}`,
  };
}
