import { sql, type Kysely } from 'kysely';

/** The ledger, its projections, and the readings. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table event (
      unit uuid not null,
      seq integer not null check (seq > 0),
      happened_at timestamptz not null,
      recorded_at timestamptz not null default now(),
      recorded_by text not null,
      kind text not null,
      body jsonb not null,
      primary key (unit, seq)
    )`.execute(db);
  await sql`comment on table event is 'What happened to units. Insert only; the state of a unit is the fold of its rows.'`.execute(db);

  await sql`
    create table unit_now (
      unit uuid primary key,
      version integer not null,
      last_happened_at timestamptz not null,
      name text not null,
      state jsonb not null
    )`.execute(db);
  await sql`create unique index unit_now_name on unit_now (lower(name))`.execute(db);
  await sql`comment on table unit_now is 'Snapshot: the state after event number version. A projection; rebuilt from event.'`.execute(db);

  await sql`
    create table drive_now (
      serial text primary key,
      unit uuid not null references unit_now (unit) on delete cascade,
      bay text not null,
      bytes bigint not null,
      model text,
      condition text not null,
      pool text,
      role text not null check (role in ('member', 'spare', 'idle')),
      inserted_at timestamptz not null
    )`.execute(db);
  await sql`create unique index drive_now_bay on drive_now (unit, bay)`.execute(db);
  await sql`comment on table drive_now is 'Every drive that stands in a bay, by serial. A projection; rebuilt from event.'`.execute(db);

  await sql`
    create table reading (
      unit uuid not null,
      pool text not null,
      metric text not null check (metric in ('used-bytes')),
      at timestamptz not null,
      value double precision not null,
      primary key (unit, pool, metric, at)
    )`.execute(db);
  await sql`comment on table reading is 'Measured values over time. Insert only.'`.execute(db);
}
