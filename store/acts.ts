import { sql } from 'kysely';
import type { DriveLife } from '../core/driveLife/life';
import type { Recorded, TakenBack } from '../core/ledger/recorded';
import type { PlanRun } from '../core/planRun/planRun';
import type { UnitState } from '../core/unit/state';
import type { Actor } from '../core/world/act';
import { broughtUp, SHAPE } from '../core/world/broughtUp';
import {
  LEDGER_KINDS,
  nameText,
  type AnyEvent,
  type Ledger,
  type LedgerKind,
  type LedgerName,
} from '../core/world/ledger';
import type { RecordedAct } from '../core/world/record';
import { emptyLedger, isLateFor } from '../core/world/world';
import type { Database, Transaction } from './database';

/** The ledgers: acts with their entries, written and read. Nothing here is ever changed or taken out. */

/** An entry with who recorded it, and when. */
export interface LedgerRow<E = AnyEvent> extends Recorded<E | TakenBack> {
  readonly act: string;
  readonly recordedAt: string;
  readonly recordedBy: string;
}

/**
 * Everybody who records in these ledgers waits here for each other, in one order for all; also where nothing is written
 * yet. Ledgers share so many places of each kind, so that an act over a thousand drives holds no thousand locks.
 */
export async function lockLedgers(tx: Transaction, names: readonly LedgerName[]): Promise<void> {
  if (names.length === 0) return;
  const [ranks, ids] = [names.map(({ kind }) => LEDGER_KINDS.indexOf(kind)), names.map(({ id }) => id)];
  await sql`
    select pg_advisory_xact_lock(${LOCKS} + rank, place) from (
      select distinct rank, hashtext(id) & ${PLACES - 1} as place from unnest(${ranks}::int[], ${ids}::text[]) as name (rank, id) order by 1, 2
    ) as places`.execute(tx);
}

/** Ours among the database's advisory locks, and how many places each kind of ledger has. */
const LOCKS = 7_350_000;
const PLACES = 256;

/**
 * These ledgers as they are: their states, and their entries where something is placed before their last.
 *
 * @param at when something is about to have happened; left out means that every history is wanted
 */
export async function loadLedgers(db: Database, names: readonly LedgerName[], at?: string): Promise<Ledger[]> {
  const distinct = [...new Map(names.map((name) => [nameText(name), name])).values()];
  const found = new Map<string, Ledger>();
  for (const kind of ['plan', 'unit', 'drive'] as const) {
    const ids = distinct.filter((name) => name.kind === kind).map(({ id }) => id);
    if (ids.length > 0) for (const ledger of await snapshots(db, kind, ids)) found.set(nameText(ledger), ledger);
  }
  for (const ledger of await lengths(
    db,
    distinct.filter((name) => !found.has(nameText(name))),
  ))
    found.set(nameText(ledger), ledger);
  const ledgers: Ledger[] = [];
  for (const name of distinct) {
    const ledger = found.get(nameText(name)) ?? emptyLedger(name);
    const isWanted = ledger.history === null && (at === undefined || isLateFor(ledger, at));
    ledgers.push(isWanted ? { ...ledger, history: await entriesOf(db, name) } : ledger);
  }
  return ledgers;
}

async function snapshots(db: Database, kind: LedgerKind, ids: readonly string[]): Promise<Ledger[]> {
  const made = (id: string, version: number, last: Date, state: unknown): Ledger => ({
    kind,
    id,
    version,
    lastHappenedAt: last.toISOString(),
    state: state as UnitState | DriveLife | PlanRun,
    history: null,
  });
  if (kind === 'unit') {
    const rows = await db
      .selectFrom('unit_now')
      .select(['unit', 'version', 'last_happened_at', 'state'])
      .where('unit', 'in', ids)
      .execute();
    return rows.map((row) => made(row.unit, row.version, row.last_happened_at, row.state));
  }
  if (kind === 'drive') {
    const rows = await db
      .selectFrom('drive_life')
      .select(['serial', 'version', 'last_happened_at', 'life'])
      .where('serial', 'in', ids)
      .execute();
    return rows.map((row) => made(row.serial, row.version, row.last_happened_at, row.life));
  }
  const rows = await db
    .selectFrom('plan_now')
    .select(['plan', 'version', 'last_happened_at', 'run'])
    .where('plan', 'in', ids)
    .execute();
  return rows.map((row) => made(row.plan, row.version, row.last_happened_at, row.run));
}

/** Ledgers of which nothing counts any more, or that were never begun. */
async function lengths(db: Database, names: readonly LedgerName[]): Promise<Ledger[]> {
  if (names.length === 0) return [];
  const rows = await db
    .selectFrom('entry')
    .select((of) => ['ledger', 'subject', of.fn.max('seq').as('version'), of.fn.max('happened_at').as('last')])
    .where(
      sql<boolean>`(ledger, subject) in (select * from unnest(${names.map(({ kind }) => kind)}::text[], ${names.map(({ id }) => id)}::text[]))`,
    )
    .groupBy(['ledger', 'subject'])
    .execute();
  return rows.map(({ ledger, subject, version, last }) => ({
    kind: ledger as LedgerKind,
    id: subject,
    version,
    lastHappenedAt: last.toISOString(),
    state: null,
    history: null,
  }));
}

/** The entries of one ledger in their order, all or those after one. */
export async function entriesOf<E = AnyEvent>(
  db: Database,
  { kind, id }: LedgerName,
  after = 0,
): Promise<LedgerRow<E>[]> {
  const rows = await withAct(db)
    .where('ledger', '=', kind)
    .where('subject', '=', id)
    .where('seq', '>', after)
    .orderBy('seq')
    .execute();
  return rows.map((row) => toRow<E>(row));
}

/** A page of a ledger's entries, the newest first, of some kinds or of all, and how many of these there are. */
export async function pageOfEntries<E = AnyEvent>(
  db: Database,
  { kind, id }: LedgerName,
  {
    from,
    most,
    kinds,
  }: { readonly from: number; readonly most: number; readonly kinds?: readonly string[] | undefined },
): Promise<{ readonly rows: LedgerRow<E>[]; readonly total: number }> {
  const wanted = [...(kinds ?? []), ''];
  const [rows, counted] = await Promise.all([
    withAct(db)
      .where('ledger', '=', kind)
      .where('subject', '=', id)
      .$if(kinds !== undefined, (query) => query.where('entry.kind', 'in', wanted))
      .orderBy('entry.happened_at', 'desc')
      .orderBy('seq', 'desc')
      .limit(most)
      .offset(from)
      .execute(),
    db
      .selectFrom('entry')
      .select((of) => of.fn.countAll().as('total'))
      .where('ledger', '=', kind)
      .where('subject', '=', id)
      .$if(kinds !== undefined, (query) => query.where('kind', 'in', wanted))
      .executeTakeFirstOrThrow(),
  ]);
  return { rows: rows.map((row) => toRow<E>(row)), total: Number(counted.total) };
}

/** What these acts recorded, in every ledger: of each ledger in its order. */
export async function entriesOfActs(db: Database, acts: readonly string[]): Promise<(LedgerRow & LedgerName)[]> {
  if (acts.length === 0) return [];
  const rows = await withAct(db)
    .select(['ledger', 'subject'])
    .where('entry.act', 'in', acts)
    .orderBy('ledger')
    .orderBy('subject')
    .orderBy('seq')
    .execute();
  return rows.map((row) => ({ ...toRow(row), kind: row.ledger as LedgerKind, id: row.subject }));
}

/** The act an entry came by. */
export async function actOfEntry(db: Database, { kind, id }: LedgerName, seq: number): Promise<string | undefined> {
  const row = await db
    .selectFrom('entry')
    .select('act')
    .where('ledger', '=', kind)
    .where('subject', '=', id)
    .where('seq', '=', seq)
    .executeTakeFirst();
  return row?.act;
}

/** The acts that no longer count in a ledger, and why. */
export async function takenBackActs(db: Database, { kind, id }: LedgerName): Promise<Map<string, string>> {
  const rows = await db
    .selectFrom('entry')
    .select([sql<string>`body->>'act'`.as('act'), sql<string>`body->>'reason'`.as('reason')])
    .where('ledger', '=', kind)
    .where('subject', '=', id)
    .where('kind', '=', 'taken-back')
    .execute();
  return new Map(rows.map(({ act, reason }) => [act, reason]));
}

export interface StoredAct {
  readonly id: string;
  readonly n: number;
  readonly happenedAt: string;
  readonly recordedAt: string;
  readonly by: Actor;
  readonly takesBack: string | null;
  readonly entries: readonly (LedgerName & { readonly seq: number; readonly event: AnyEvent | TakenBack })[];
}

export async function actById(db: Database, id: string): Promise<StoredAct | undefined> {
  return (await actsWhere(db, (query) => query.where('id', '=', id)))[0];
}

/** Acts in the order they were recorded, so many after one. */
export async function actsAfter(db: Database, n: number, most: number): Promise<StoredAct[]> {
  return actsWhere(db, (query) => query.where('n', '>', String(n)).orderBy('n').limit(most));
}

type ActQuery = ReturnType<typeof allActs>;

function allActs(db: Database) {
  return db.selectFrom('act').selectAll();
}

async function actsWhere(db: Database, which: (query: ActQuery) => ActQuery): Promise<StoredAct[]> {
  const acts = await which(allActs(db)).execute();
  if (acts.length === 0) return [];
  const rows = await db
    .selectFrom('entry')
    .selectAll()
    .where(
      'act',
      'in',
      acts.map(({ id }) => id),
    )
    .orderBy('act')
    .orderBy('place')
    .execute();
  const entries = new Map<string, StoredAct['entries'][number][]>();
  for (const row of rows)
    entries.set(row.act, [
      ...(entries.get(row.act) ?? []),
      { kind: row.ledger as LedgerKind, id: row.subject, seq: row.seq, event: eventOf(row) },
    ]);
  return acts.map((act) => ({
    id: act.id,
    n: Number(act.n),
    happenedAt: act.happened_at.toISOString(),
    recordedAt: act.recorded_at.toISOString(),
    by: { kind: act.by_kind as Actor['kind'], id: act.by_id, name: act.by_name },
    takesBack: act.takes_back,
    entries: entries.get(act.id) ?? [],
  }));
}

/** Writes an act with its entries, in one statement. */
export async function insertAct(
  tx: Transaction,
  { act: { id, by, happenedAt }, written }: Pick<RecordedAct, 'act' | 'written'>,
  { recordedAt, takesBack }: { readonly recordedAt?: string | undefined; readonly takesBack?: string | undefined } = {},
): Promise<void> {
  const bodies = written.map(({ event: { kind: _kind, ...body } }) => JSON.stringify(body));
  await sql`
    with made as (
      insert into act (id, happened_at, recorded_at, by_kind, by_id, by_name, takes_back)
      values (${id}, ${happenedAt}, ${recordedAt ?? sql`now()`}, ${by.kind}, ${by.id}, ${by.name}, ${takesBack ?? null})
      returning id, happened_at
    )
    insert into entry (ledger, subject, seq, act, place, happened_at, kind, body, shape)
    select w.ledger, w.subject, w.seq, made.id, w.place, made.happened_at, w.kind, w.body, ${SHAPE}
    from made, unnest(
      ${written.map(({ kind }) => kind)}::text[], ${written.map((one) => one.id)}::text[], ${written.map(({ seq }) => seq)}::int[],
      ${written.map(({ event }) => event.kind)}::text[], ${bodies}::jsonb[]
    ) with ordinality as w (ledger, subject, seq, kind, body, place)`.execute(tx);
}

/** When something was last recorded, and how much of it not by this kind of actor; what the watch records by itself aside. */
export async function recordedSoFar(
  db: Database,
  by: Actor['kind'],
): Promise<{ readonly last: string | null; readonly others: number }> {
  const row = await db
    .selectFrom('act')
    .where('by_kind', '!=', 'watch')
    .select((of) => [
      of.fn.max('recorded_at').as('last'),
      of.fn.countAll<string>().filterWhere('by_kind', '!=', by).as('others'),
    ])
    .executeTakeFirstOrThrow();
  return { last: (row.last as Date | null)?.toISOString() ?? null, others: Number(row.others) };
}

/** Every ledger of a kind that was ever begun. */
export async function ledgersOfKind(db: Database, kind: LedgerKind): Promise<string[]> {
  return (
    await db
      .selectFrom('entry')
      .select('subject')
      .where('ledger', '=', kind)
      .where('seq', '=', 1)
      .orderBy('subject')
      .execute()
  ).map(({ subject }) => subject);
}

/** Entries of units that are about one drive, newest first. */
export async function entriesAbout(
  db: Database,
  serial: string,
  most: number,
): Promise<(LedgerRow & { readonly unit: string; readonly unitName: string; readonly takenBackFor: string | null })[]> {
  const rows = await withAct(db)
    .innerJoin('unit_now', (on) => on.on(sql<boolean>`unit_now.unit::text = entry.subject`))
    .select([
      'unit_now.name as unit_name',
      sql<string | null>`(
      select back.body->>'reason' from entry back
      where back.ledger = entry.ledger and back.subject = entry.subject and back.kind = 'taken-back' and back.body->>'act' = entry.act::text limit 1
    )`.as('taken_back_for'),
    ])
    .where('ledger', '=', 'unit')
    .where('subject', 'in', (from) =>
      from
        .selectFrom('entry as own')
        .select(sql<string>`own.body->>'unit'`.as('unit'))
        .where('own.ledger', '=', 'drive')
        .where('own.subject', '=', serial)
        .where('own.kind', '=', 'fitted'),
    )
    .where(
      // Wherever an event names it: alone, among the members of a pool, as a spare, as cache.
      sql<boolean>`jsonb_path_exists(entry.body::jsonb, '$.** ? (@ == $serial)', jsonb_build_object('serial', ${serial}::text))`,
    )
    .orderBy('entry.happened_at', 'desc')
    .limit(most)
    .execute();
  return rows.map((row) => ({
    ...toRow(row),
    unit: row.subject,
    unitName: row.unit_name,
    takenBackFor: row.taken_back_for,
  }));
}

function withAct(db: Database) {
  return db
    .selectFrom('entry')
    .innerJoin('act', 'act.id', 'entry.act')
    .select([
      'ledger',
      'subject',
      'seq',
      'entry.act',
      'entry.happened_at',
      'kind',
      'body',
      'shape',
      'recorded_at',
      'by_name',
    ]);
}

interface EntryRow {
  readonly ledger: string;
  readonly seq: number;
  readonly act: string;
  readonly happened_at: Date;
  readonly kind: string;
  readonly body: unknown;
  readonly shape: number;
}

function eventOf({
  ledger,
  kind,
  body,
  shape,
}: Pick<EntryRow, 'ledger' | 'kind' | 'body' | 'shape'>): AnyEvent | TakenBack {
  return broughtUp(ledger as LedgerKind, { kind, ...(body as object) }, shape) as AnyEvent | TakenBack;
}

function toRow<E>(row: EntryRow & { readonly recorded_at: Date; readonly by_name: string }): LedgerRow<E> {
  return {
    seq: row.seq,
    act: row.act,
    happenedAt: row.happened_at.toISOString(),
    recordedAt: row.recorded_at.toISOString(),
    recordedBy: row.by_name,
    event: eventOf(row) as E | TakenBack,
  };
}
