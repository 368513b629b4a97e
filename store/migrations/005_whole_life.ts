import { sql, type Kysely } from 'kysely';

/** Drives over their whole life, orders, papers, readings of everything with rollups, and what lists across units need. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create index event_by_time on event (unit, happened_at desc, seq desc)`.execute(db);

  await sql`
    create table drive_event (
      serial text not null,
      seq integer not null check (seq > 0),
      happened_at timestamptz not null,
      recorded_at timestamptz not null default now(),
      recorded_by text not null,
      kind text not null,
      body jsonb not null,
      primary key (serial, seq)
    )`.execute(db);
  await sql`comment on table drive_event is 'What happened to drives outside of units, and that they went in or came out. Insert only.'`.execute(db);

  // Drives recorded so far went into bays and came out: their own ledgers begin with that.
  await sql`
    insert into drive_event (serial, seq, happened_at, recorded_at, recorded_by, kind, body)
    select serial, row_number() over (partition by serial order by happened_at, seq, unit), happened_at, recorded_at, recorded_by, kind, body
    from (
      select e.body->'drive'->>'serial' as serial, e.seq, e.unit, e.happened_at, e.recorded_at, e.recorded_by, 'fitted' as kind,
        jsonb_build_object('unit', e.unit, 'unitName', u.name, 'bay', e.body->>'bay', 'drive', (e.body->'drive') - 'serial', 'entry', e.seq) as body
      from event e join unit_now u using (unit) where e.kind = 'drive-inserted'
      union all
      select e.body->>'serial', e.seq, e.unit, e.happened_at, e.recorded_at, e.recorded_by, 'taken-out',
        jsonb_build_object('unit', e.unit, 'entry', e.seq)
      from event e where e.kind = 'drive-removed'
    ) moved`.execute(db);

  await sql`
    create table drive_life (
      serial text primary key,
      version integer not null,
      last_happened_at timestamptz not null,
      place text not null check (place in ('in-hand', 'drawer', 'bay', 'under-warranty', 'gone')),
      site text,
      room text,
      bytes bigint not null,
      model text,
      lot text,
      life jsonb not null
    )`.execute(db);
  await sql`create index drive_life_place on drive_life (place, serial)`.execute(db);
  await sql`create index drive_life_lot on drive_life (lot) where lot is not null`.execute(db);
  await sql`comment on table drive_life is 'Every drive wherever it is. A projection; rebuilt from drive_event.'`.execute(db);

  await sql`
    create table drive_order (
      id uuid primary key,
      ordered_at timestamptz not null,
      supplier text not null,
      count integer not null check (count between 1 and 1000),
      description jsonb not null,
      expected_on date,
      note text,
      recorded_at timestamptz not null default now(),
      recorded_by text not null
    )`.execute(db);
  await sql`
    create table drive_order_closed (
      drive_order uuid primary key references drive_order (id),
      at timestamptz not null default now(),
      reason text not null,
      recorded_by text not null
    )`.execute(db);

  await sql`
    create table paper (
      id uuid primary key,
      unit uuid,
      serial text,
      name text not null,
      type text not null check (type in ('image/png', 'image/jpeg', 'image/webp', 'application/pdf', 'text/plain', 'text/csv')),
      size integer not null,
      sha256 text not null,
      bytes bytea not null,
      added_at timestamptz not null default now(),
      added_by text not null,
      check (unit is not null or serial is not null)
    )`.execute(db);
  await sql`create index paper_unit on paper (unit)`.execute(db);
  await sql`create index paper_serial on paper (serial)`.execute(db);
  await sql`comment on table paper is 'Pictures and papers, kept as they came. Never executed; served as files.'`.execute(db);

  await sql`alter table reading rename column pool to subject`.execute(db);
  await sql`alter table reading drop constraint reading_metric_check`.execute(db);
  await sql`
    alter table reading add constraint reading_metric_check check (metric in
      ('used-bytes', 'temperature', 'reallocated-sectors', 'pending-sectors', 'read-errors', 'power-on-hours', 'written-bytes'))`.execute(db);
  await sql`
    create table reading_now (
      unit uuid not null,
      subject text not null,
      metric text not null,
      at timestamptz not null,
      value double precision not null,
      primary key (unit, subject, metric)
    )`.execute(db);
  await sql`
    create table reading_day (
      unit uuid not null,
      subject text not null,
      metric text not null,
      day date not null,
      low double precision not null,
      high double precision not null,
      last double precision not null,
      last_at timestamptz not null,
      primary key (unit, subject, metric, day)
    )`.execute(db);
  // A drive is asked for by its serial, wherever it stood.
  await sql`create index reading_day_subject on reading_day (subject)`.execute(db);
  await sql`comment on table reading_now is 'The newest reading of everything. A projection of reading.'`.execute(db);
  await sql`comment on table reading_day is 'Readings by day: lowest, highest, last. A projection of reading.'`.execute(db);
  await sql`
    insert into reading_now
    select distinct on (unit, subject, metric) unit, subject, metric, at, value from reading order by unit, subject, metric, at desc`.execute(db);
  await sql`
    insert into reading_day
    select unit, subject, metric, (at at time zone 'UTC')::date, min(value), max(value), (array_agg(value order by at desc))[1], max(at)
    from reading group by 1, 2, 3, 4`.execute(db);

  // Snapshots hold more than before: they are made again from the ledger when the program starts.
  await sql`truncate unit_now cascade`.execute(db);
  await sql`alter table unit_now add column site text not null, add column room text not null, add column card jsonb not null`.execute(db);
  await sql`create index unit_now_place on unit_now (site, room, name)`.execute(db);
  await sql`
    create table need_now (
      unit uuid not null references unit_now (unit) on delete cascade,
      n integer not null,
      urgency double precision not null,
      from_at timestamptz not null,
      until_at timestamptz,
      need jsonb not null,
      primary key (unit, n)
    )`.execute(db);
  await sql`create index need_now_urgency on need_now (urgency)`.execute(db);
  await sql`comment on table need_now is 'What needs hands, now or later. A projection of units and readings.'`.execute(db);
  await sql`
    create table wait_now (
      unit uuid not null references unit_now (unit) on delete cascade,
      job text not null,
      task text not null,
      bay text,
      percent double precision not null,
      started_at timestamptz not null,
      heard_at timestamptz not null,
      primary key (unit, job)
    )`.execute(db);
  await sql`comment on table wait_now is 'What is being waited for. A projection of units.'`.execute(db);

  await sql`
    create table tested_model (
      model text primary key,
      verdict text not null check (verdict in ('works', 'avoid')),
      note text,
      recorded_at timestamptz not null default now(),
      recorded_by text not null
    )`.execute(db);
  await sql`
    create table calendar_feed (
      user_id text primary key references auth."user" (id) on delete cascade,
      hash text not null unique,
      made_at timestamptz not null default now()
    )`.execute(db);
}
