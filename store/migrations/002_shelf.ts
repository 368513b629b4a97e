import { sql, type Kysely } from 'kysely';

/** Everything but accounts: acts with their entries, what is computed of them, readings, papers, and what is said of the whole. */
const STATEMENTS = [
  // The ledgers.
  `create table act (
    id uuid primary key,
    n bigint generated always as identity unique,
    happened_at timestamptz not null,
    recorded_at timestamptz not null default now(),
    by_kind text not null check (by_kind in ('person', 'token', 'watch', 'import', 'demo')),
    by_id text,
    by_name text not null,
    takes_back uuid unique references act (id)
  )`,
  `comment on table act is 'What somebody recorded at once: written whole or not at all. Insert only.'`,
  `create table entry (
    ledger text not null check (ledger in ('unit', 'drive', 'plan')),
    subject text not null,
    seq integer not null check (seq > 0),
    act uuid not null references act (id),
    place integer not null check (place > 0),
    happened_at timestamptz not null,
    kind text not null,
    body jsonb not null,
    shape smallint not null,
    primary key (ledger, subject, seq)
  )`,
  `create index entry_by_time on entry (ledger, subject, happened_at desc, seq desc)`,
  `create unique index entry_of_act on entry (act, place)`,
  `create index entry_taken_back on entry (ledger, subject) where kind = 'taken-back'`,
  `comment on table entry is 'Entries of the ledgers of units, drives and plans. Insert only; a state is the fold of its rows.'`,
  `comment on column entry.place is 'Which of its act it is: over several ledgers the order matters.'`,
  `comment on column entry.shape is 'The version of the shapes it was written in: an older one is brought up on reading.'`,

  // What is computed of them.
  `create table unit_now (
    unit uuid primary key,
    version integer not null,
    model integer not null,
    last_happened_at timestamptz not null,
    name text not null,
    site text not null,
    room text not null,
    card jsonb not null,
    state jsonb not null
  )`,
  `create unique index unit_now_name on unit_now (lower(name))`,
  `create index unit_now_place on unit_now (site, room, name)`,
  `comment on table unit_now is 'Snapshot: the state after entry number version, by the version of the model that made it. A projection; rebuilt from entry.'`,
  `create table drive_now (
    serial text primary key,
    unit uuid not null references unit_now (unit) on delete cascade,
    bay text not null,
    bytes bigint not null,
    model text,
    condition text not null,
    pool text,
    role text not null check (role in ('member', 'spare', 'cache', 'idle')),
    inserted_at timestamptz not null
  )`,
  `create unique index drive_now_bay on drive_now (unit, bay)`,
  `comment on table drive_now is 'Every drive that stands in a bay, by its key. A projection; rebuilt from entry.'`,
  `create table drive_life (
    serial text primary key,
    version integer not null,
    model_version integer not null,
    last_happened_at timestamptz not null,
    place text not null check (place in ('in-hand', 'drawer', 'bay', 'under-warranty', 'gone')),
    site text,
    room text,
    bytes bigint not null,
    model text,
    lot text,
    life jsonb not null
  )`,
  `create index drive_life_place on drive_life (place, serial)`,
  `create index drive_life_lot on drive_life (lot) where lot is not null`,
  `comment on table drive_life is 'Every drive wherever it is, by its key. A projection; rebuilt from entry.'`,
  `create table plan_now (
    plan uuid primary key,
    version integer not null,
    model integer not null,
    last_happened_at timestamptz not null,
    units uuid[] not null,
    started_at timestamptz not null,
    is_open boolean not null,
    run jsonb not null
  )`,
  `create index plan_now_units on plan_now using gin (units)`,
  `create index plan_now_order on plan_now (is_open desc, started_at desc)`,
  `comment on table plan_now is 'Every plan, as far as it is. A projection; rebuilt from entry.'`,
  `create table need_now (
    unit uuid not null references unit_now (unit) on delete cascade,
    n integer not null,
    urgency double precision not null,
    from_at timestamptz not null,
    until_at timestamptz,
    need jsonb not null,
    shown jsonb,
    primary key (unit, n)
  )`,
  `create index need_now_shown on need_now (urgency) where shown is not null`,
  `create index need_now_conditional on need_now (unit) where need ? 'unless'`,
  `comment on table need_now is 'What needs hands, now or later. A projection of units and readings.'`,
  `comment on column need_now.shown is 'The need as it stands against what lies in the drawers; null while a drawer meets it.'`,
  `create table wait_now (
    unit uuid not null references unit_now (unit) on delete cascade,
    job text not null,
    task text not null,
    bay text,
    percent double precision not null,
    started_at timestamptz not null,
    heard_at timestamptz not null,
    estimate jsonb,
    plan text,
    primary key (unit, job)
  )`,
  `comment on table wait_now is 'What is being waited for. A projection of units.'`,

  // Readings.
  `create table reading (
    unit uuid not null,
    subject text not null,
    metric text not null check (metric in
      ('used-bytes', 'temperature', 'reallocated-sectors', 'pending-sectors', 'read-errors', 'power-on-hours', 'written-bytes')),
    at timestamptz not null,
    value double precision not null,
    primary key (unit, subject, metric, at)
  )`,
  `comment on table reading is 'Measured values over time. Insert only.'`,
  `create table reading_now (
    unit uuid not null,
    subject text not null,
    metric text not null,
    at timestamptz not null,
    value double precision not null,
    primary key (unit, subject, metric)
  )`,
  `create table reading_day (
    unit uuid not null,
    subject text not null,
    metric text not null,
    day date not null,
    low double precision not null,
    high double precision not null,
    last double precision not null,
    last_at timestamptz not null,
    primary key (unit, subject, metric, day)
  )`,
  `create index reading_now_subject on reading_now (subject, metric)`,
  // A drive or a pool is asked for by its key, wherever it stood.
  `create index reading_day_subject on reading_day (subject)`,
  `comment on table reading_now is 'The newest reading of everything. A projection of reading.'`,
  `comment on table reading_day is 'Readings by day: lowest, highest, last. A projection of reading.'`,

  // Orders, papers, messages.
  `create table drive_order (
    id uuid primary key,
    ordered_at timestamptz not null,
    supplier text not null,
    count integer not null check (count between 1 and 1000),
    description jsonb not null,
    expected_on date,
    note text,
    recorded_at timestamptz not null default now(),
    recorded_by text not null
  )`,
  `create table drive_order_closed (
    drive_order uuid primary key references drive_order (id),
    at timestamptz not null default now(),
    reason text not null,
    recorded_by text not null
  )`,
  `create table paper (
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
  )`,
  `create index paper_unit on paper (unit)`,
  `create index paper_serial on paper (serial)`,
  `comment on table paper is 'Pictures and papers, kept as they came. Never executed; served as files.'`,
  `create table message (
    id uuid primary key,
    unit uuid not null,
    job text not null,
    code text not null,
    sentence text not null,
    about_at timestamptz not null,
    made_at timestamptz not null default now(),
    mailed_at timestamptz,
    unique (unit, job, about_at, code)
  )`,
  `create index message_newest on message (made_at desc)`,
  `comment on table message is 'What people are told once: work that is done, or stands still. mailed_at is set when it was sent.'`,

  // What is said of the whole, and by whom.
  `create table api_token (
    id uuid primary key,
    user_id text not null references auth."user" (id) on delete cascade,
    name text not null,
    hash text not null unique,
    scopes text[] not null,
    created_at timestamptz not null default now(),
    last_used_at timestamptz,
    revoked_at timestamptz
  )`,
  `comment on column api_token.hash is 'SHA-256 of the token, hex. The token itself is shown once and not kept.'`,
  `create table organisation (
    id boolean primary key default true check (id),
    name text not null,
    currency text not null,
    is_demo boolean not null default false
  )`,
  `create table comparison (
    id uuid primary key,
    name text not null,
    body jsonb not null,
    kept_by text not null,
    kept_at timestamptz not null default now()
  )`,
  `create table profile (
    id text primary key,
    body jsonb not null,
    changed_by text not null,
    changed_at timestamptz not null default now()
  )`,
  `comment on table profile is 'Platform profiles of the user''s own; one with the id of a shipped one takes its place.'`,
  `create table tested_model (
    model text primary key,
    verdict text not null check (verdict in ('works', 'avoid')),
    note text,
    recorded_at timestamptz not null default now(),
    recorded_by text not null
  )`,
  `create table calendar_feed (
    user_id text primary key references auth."user" (id) on delete cascade,
    hash text not null unique,
    made_at timestamptz not null default now()
  )`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
