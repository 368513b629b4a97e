import { sql } from 'kysely';
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
  const rows = await db.selectFrom('event').selectAll().where('unit', '=', unit).where('seq', '>', after).orderBy('seq').execute();
  return rows.map((row) => ({
    seq: row.seq,
    happenedAt: row.happened_at.toISOString(),
    recordedAt: row.recorded_at.toISOString(),
    recordedBy: row.recorded_by,
    event: { kind: row.kind, ...(row.body as object) } as UnitEvent,
  }));
}

/** When something was last recorded, and how much of it by others than the one named. */
export async function recordedSoFar(db: Database, by: string): Promise<{ readonly last: string | null; readonly others: number }> {
  const row = await db
    .selectFrom('event')
    .select((of) => [of.fn.max('recorded_at').as('last'), of.fn.countAll<string>().filterWhere('recorded_by', '!=', by).as('others')])
    .executeTakeFirstOrThrow();
  return { last: (row.last as Date | null)?.toISOString() ?? null, others: Number(row.others) };
}

export async function unitsInLedger(db: Database | Work): Promise<string[]> {
  return (await db.selectFrom('event').select('unit').distinct().orderBy('unit').execute()).map(({ unit }) => unit);
}

export async function appendEvents(work: Work, unit: string, events: readonly RecordedEvent[], recordedBy: string): Promise<void> {
  if (events.length === 0) return;
  await work
    .insertInto('event')
    .values(
      events.map(({ seq, happenedAt, event: { kind, ...body } }) => ({
        unit,
        seq,
        happened_at: happenedAt,
        recorded_by: recordedBy,
        kind,
        body: JSON.stringify(body),
      })),
    )
    .execute();
}

export async function saveSnapshot(work: Work, { id, version, lastHappenedAt, state }: StoredUnit): Promise<void> {
  const values = { version, last_happened_at: lastHappenedAt, name: state.name, state: JSON.stringify(state) };
  await work
    .insertInto('unit_now')
    .values({ unit: id, ...values })
    .onConflict((conflict) => conflict.column('unit').doUpdateSet(values))
    .execute();
}

export async function forgetProjections(work: Work): Promise<void> {
  await work.deleteFrom('drive_now').execute();
  await work.deleteFrom('unit_now').execute();
}
