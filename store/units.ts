import { sql } from 'kysely';
import { cardOf } from '../core/unit/card';
import type { RecordedEvent, UnitEvent } from '../core/unit/event';
import type { UnitState } from '../core/unit/state';
import type { Database, Work } from './database';

/** A unit as its snapshot holds it. */
export interface StoredUnit {
  readonly id: string;
  readonly version: number;
  readonly lastHappenedAt: string;
  readonly state: UnitState;
}

export interface LedgerRow extends RecordedEvent {
  readonly recordedAt: string;
  readonly recordedBy: string;
}

const SNAPSHOT = ['unit', 'version', 'last_happened_at', 'state'] as const;

function toUnit(row: { unit: string; version: number; last_happened_at: Date; state: unknown }): StoredUnit {
  return { id: row.unit, version: row.version, lastHappenedAt: row.last_happened_at.toISOString(), state: row.state as UnitState };
}

export async function allUnits(db: Database | Work): Promise<StoredUnit[]> {
  return (await db.selectFrom('unit_now').select(SNAPSHOT).orderBy('name').execute()).map(toUnit);
}

/** Units of a site, or of all, by place and name. */
export async function unitsAt(db: Database, site: string | undefined, most: number): Promise<StoredUnit[]> {
  const rows = await db
    .selectFrom('unit_now')
    .select(SNAPSHOT)
    .$if(site !== undefined, (query) => query.where('site', '=', site ?? ''))
    .orderBy('site')
    .orderBy('room')
    .orderBy('name')
    .limit(most)
    .execute();
  return rows.map(toUnit);
}

export async function unitById(db: Database | Work, id: string): Promise<StoredUnit | undefined> {
  const row = await db.selectFrom('unit_now').select(SNAPSHOT).where('unit', '=', id).executeTakeFirst();
  return row && toUnit(row);
}

/** The snapshot, held until the transaction ends: whoever appends to this unit next waits. */
export async function lockUnit(work: Work, id: string): Promise<StoredUnit | undefined> {
  const row = await work.selectFrom('unit_now').select(SNAPSHOT).where('unit', '=', id).forUpdate().executeTakeFirst();
  return row && toUnit(row);
}

export async function unitNamed(db: Database | Work, name: string): Promise<string | undefined> {
  return (
    await db
      .selectFrom('unit_now')
      .select('unit')
      .where(sql<string>`lower(name)`, '=', name.toLowerCase())
      .executeTakeFirst()
  )?.unit;
}

export async function eventsOf(db: Database | Work, unit: string, after = 0): Promise<LedgerRow[]> {
  return (await db.selectFrom('event').selectAll().where('unit', '=', unit).where('seq', '>', after).orderBy('seq').execute()).map(toRow);
}

/** A unit's newest entries by when they happened, of some kinds or of all; one more than asked for tells that there are more. */
export async function newestEvents(db: Database, unit: string, most: number, kinds?: readonly string[]): Promise<LedgerRow[]> {
  const rows = await db
    .selectFrom('event')
    .selectAll()
    .where('unit', '=', unit)
    .$if(kinds !== undefined, (query) => query.where('kind', 'in', [...(kinds ?? []), '']))
    .orderBy('happened_at', 'desc')
    .orderBy('seq', 'desc')
    .limit(most)
    .execute();
  return rows.map(toRow);
}

/** Entries that are about one drive, in whatever unit, oldest first. */
export async function eventsAbout(db: Database, serial: string, most: number): Promise<(LedgerRow & { readonly unit: string; readonly unitName: string })[]> {
  const rows = await db
    .selectFrom('event')
    .innerJoin('unit_now', 'unit_now.unit', 'event.unit')
    .selectAll('event')
    .select('name')
    .where('event.unit', 'in', (from) =>
      from
        .selectFrom('drive_event')
        .select(sql<string>`(body->>'unit')::uuid`.as('unit'))
        .where('serial', '=', serial)
        .where('kind', '=', 'fitted'),
    )
    .where(sql<boolean>`${serial} in (body->>'serial', body->'drive'->>'serial', body->>'onto', body->>'replaces', body->>'spare')`)
    .orderBy('happened_at', 'desc')
    .limit(most)
    .execute();
  return rows.map((row) => ({ ...toRow(row), unit: row.unit, unitName: row.name }));
}

export async function withdrawnEntries(db: Database | Work, unit: string): Promise<Set<number>> {
  const rows = await db
    .selectFrom('event')
    .select(sql<number>`(body->>'seq')::int`.as('seq'))
    .where('unit', '=', unit)
    .where('kind', '=', 'statement-withdrawn')
    .execute();
  return new Set(rows.map(({ seq }) => seq));
}

export async function eventNumbered(db: Database | Work, unit: string, seq: number): Promise<LedgerRow | undefined> {
  const row = await db.selectFrom('event').selectAll().where('unit', '=', unit).where('seq', '=', seq).executeTakeFirst();
  return row && toRow(row);
}

interface EventRow {
  readonly seq: number;
  readonly happened_at: Date;
  readonly recorded_at: Date;
  readonly recorded_by: string;
  readonly kind: string;
  readonly body: unknown;
}

function toRow(row: EventRow): LedgerRow {
  return {
    seq: row.seq,
    happenedAt: row.happened_at.toISOString(),
    recordedAt: row.recorded_at.toISOString(),
    recordedBy: row.recorded_by,
    event: { kind: row.kind, ...(row.body as object) } as UnitEvent,
  };
}

/** When something was last recorded, and how much of it by others than the one named. */
export async function recordedSoFar(db: Database, by: string): Promise<{ readonly last: string | null; readonly others: number }> {
  const row = await db
    .selectFrom((from) =>
      from
        .selectFrom('event')
        .select(['recorded_at', 'recorded_by'])
        .unionAll(from.selectFrom('drive_event').select(['recorded_at', 'recorded_by']))
        .as('ledger'),
    )
    .select((of) => [of.fn.max('recorded_at').as('last'), of.fn.countAll<string>().filterWhere('recorded_by', '!=', by).as('others')])
    .executeTakeFirstOrThrow();
  return { last: (row.last as Date | null)?.toISOString() ?? null, others: Number(row.others) };
}

export async function unitsInLedger(db: Database | Work): Promise<string[]> {
  return (await db.selectFrom('event').select('unit').distinct().orderBy('unit').execute()).map(({ unit }) => unit);
}

export async function appendEvents(
  work: Work,
  unit: string,
  events: readonly (RecordedEvent & { readonly recordedAt?: string | undefined })[],
  recordedBy: string,
): Promise<void> {
  if (events.length === 0) return;
  await work
    .insertInto('event')
    .values(
      events.map(({ seq, happenedAt, recordedAt, event: { kind, ...body } }) => ({
        unit,
        seq,
        happened_at: happenedAt,
        recorded_at: recordedAt ?? sql<Date>`now()`,
        recorded_by: recordedBy,
        kind,
        body: JSON.stringify(body),
      })),
    )
    .execute();
}

export async function saveSnapshot(work: Work, { id, version, lastHappenedAt, state }: StoredUnit): Promise<void> {
  const { site, room } = state.place;
  const values = { version, last_happened_at: lastHappenedAt, name: state.name, site, room, card: JSON.stringify(cardOf(state)), state: JSON.stringify(state) };
  await work
    .insertInto('unit_now')
    .values({ unit: id, ...values })
    .onConflict((conflict) => conflict.column('unit').doUpdateSet(values))
    .execute();
}

export async function forgetProjections(work: Work): Promise<void> {
  // What hangs on a unit's snapshot goes with it.
  await work.deleteFrom('unit_now').execute();
}

/** True for a ledger whose snapshots are not there, as after tables have changed. */
export async function lacksSnapshots(db: Database): Promise<boolean> {
  const { rows } = await sql<{ lacks: boolean }>`
    select exists (select from event where unit not in (select unit from unit_now))
      or (exists (select from drive_event) and not exists (select from drive_life)) as lacks`.execute(db);
  return rows[0]?.lacks === true;
}
