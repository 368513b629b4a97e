import { sql } from 'kysely';
import { cardOf } from '../core/unit/card';
import { MODEL } from '../core/world/model';
import type { UnitState } from '../core/unit/state';
import type { Database, Transaction } from './database';

/** A unit as its snapshot holds it. */
export interface StoredUnit {
  readonly id: string;
  readonly version: number;
  readonly lastHappenedAt: string;
  readonly state: UnitState;
}

const SNAPSHOT = ['unit', 'version', 'last_happened_at', 'state'] as const;

function toUnit(row: { unit: string; version: number; last_happened_at: Date; state: unknown }): StoredUnit {
  return {
    id: row.unit,
    version: row.version,
    lastHappenedAt: row.last_happened_at.toISOString(),
    state: row.state as UnitState,
  };
}

export async function allUnits(db: Database): Promise<StoredUnit[]> {
  return (await db.selectFrom('unit_now').select(SNAPSHOT).orderBy('name').execute()).map(toUnit);
}

/** Units by name, so many at a time. */
export async function unitsFrom(db: Database, from: number, most: number): Promise<StoredUnit[]> {
  return (
    await db.selectFrom('unit_now').select(SNAPSHOT).orderBy('name').orderBy('unit').offset(from).limit(most).execute()
  ).map(toUnit);
}

/** Stands on a shelf: it is not out of use. */
export const isInUse = sql<boolean>`not (state ? 'retired')`;

/** Units in use of a site, or of all, by place and name. */
export async function unitsAt(db: Database, site: string | undefined, most: number): Promise<StoredUnit[]> {
  const rows = await db
    .selectFrom('unit_now')
    .select(SNAPSHOT)
    .where(isInUse)
    .$if(site !== undefined, (query) => query.where('site', '=', site ?? ''))
    .orderBy('site')
    .orderBy('room')
    .orderBy('name')
    .limit(most)
    .execute();
  return rows.map(toUnit);
}

export async function unitById(db: Database, id: string): Promise<StoredUnit | undefined> {
  const row = await db.selectFrom('unit_now').select(SNAPSHOT).where('unit', '=', id).executeTakeFirst();
  return row && toUnit(row);
}

export async function unitNamed(db: Database, name: string): Promise<string | undefined> {
  return (
    await db
      .selectFrom('unit_now')
      .select('unit')
      .where(sql<string>`lower(name)`, '=', name.toLowerCase())
      .executeTakeFirst()
  )?.unit;
}

export async function saveSnapshot(tx: Transaction, { id, version, lastHappenedAt, state }: StoredUnit): Promise<void> {
  const { site, room } = state.place;
  const values = {
    version,
    model: MODEL,
    last_happened_at: lastHappenedAt,
    name: state.name,
    site,
    room,
    card: JSON.stringify(cardOf(state)),
    state: JSON.stringify(state),
  };
  await tx
    .insertInto('unit_now')
    .values({ unit: id, ...values })
    .onConflict((conflict) => conflict.column('unit').doUpdateSet(values))
    .execute();
}

export async function forgetProjections(tx: Transaction): Promise<void> {
  // What hangs on a unit's snapshot goes with it.
  await tx.deleteFrom('unit_now').execute();
}

/** A unit that was never there after all. */
export async function forgetUnit(tx: Transaction, id: string): Promise<void> {
  await tx.deleteFrom('unit_now').where('unit', '=', id).execute();
}

/** True where snapshots are not there, or another version of the model made them. */
export async function lacksSnapshots(db: Database): Promise<boolean> {
  const { rows } = await sql<{ lacks: boolean }>`
    select (exists (select from entry where ledger = 'unit') and not exists (select from unit_now))
      or (exists (select from entry where ledger = 'drive') and not exists (select from drive_life))
      or (exists (select from entry where ledger = 'plan') and not exists (select from plan_now))
      or exists (select from unit_now where model <> ${MODEL})
      or exists (select from drive_life where model_version <> ${MODEL})
      or exists (select from plan_now where model <> ${MODEL}) as lacks`.execute(db);
  return rows[0]?.lacks === true;
}
