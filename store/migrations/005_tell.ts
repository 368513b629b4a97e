import { sql, type Kysely } from 'kysely';

/** Who is told of what, by which way, and what units without a voice write. */
const STATEMENTS = [
  `alter table message drop column mailed_at, drop column tries, drop column next_try_at`,
  `comment on table message is 'What became of work: told once each.'`,
  `create table cause (
    id uuid primary key,
    unit uuid not null,
    root text not null,
    code text not null,
    severity text not null check (severity in ('margin', 'sign', 'care')),
    urgency double precision not null,
    grave text[] not null,
    title text not null,
    reason text not null,
    others integer not null,
    began_at timestamptz not null,
    changed_at timestamptz not null,
    closed_at timestamptz,
    seen_at timestamptz,
    seen_by text
  )`,
  `create unique index cause_open on cause (unit, root) where closed_at is null`,
  `create index cause_closed on cause (closed_at)`,
  `comment on table cause is 'What needs hands by what it comes from, for as long as it does: one is one message. Made of need_now; only who has seen it is people''s.'`,
  `create table tell_rule (
    id uuid primary key,
    user_id text references auth."user" (id) on delete cascade,
    channel text not null check (channel in ('mail', 'webhook')),
    address text,
    secret bytea,
    sites text[] not null default '{}',
    least text not null check (least in ('margin', 'sign', 'care')),
    quiet jsonb,
    repeat_hours integer check (repeat_hours between 1 and 720),
    is_on boolean not null default true,
    held_until timestamptz,
    pending jsonb,
    tries integer not null default 0,
    next_try_at timestamptz,
    trouble text,
    told_at timestamptz,
    test_sent_at timestamptz,
    tested_at timestamptz,
    set_by text not null,
    set_at timestamptz not null default now(),
    check (user_id is not null or address is not null)
  )`,
  `create index tell_rule_user on tell_rule (user_id)`,
  `comment on table tell_rule is 'Who is told of what. Without an address: at the e-mail of that person.'`,
  `comment on column tell_rule.held_until is 'Somebody is telling by it now; nobody else does before this.'`,
  `comment on column tell_rule.pending is 'What is being told now, as it is handed over: whoever dies with it leaves it to be handed over once more, the same.'`,
  `comment on column tell_rule.secret is 'What a webhook is signed with, sealed with a key that is not in the database.'`,
  `create table told (
    rule uuid not null references tell_rule (id) on delete cascade,
    about uuid not null,
    changed_at timestamptz not null,
    at timestamptz not null,
    times integer not null default 1,
    primary key (rule, about)
  )`,
  `comment on table told is 'Of what a rule''s person was told last, as it was since changed_at.'`,
  `create table outgoing (
    id boolean primary key default true check (id),
    host text not null,
    port integer not null check (port between 1 and 65535),
    security text not null check (security in ('tls', 'starttls', 'none')),
    user_name text,
    secret bytea,
    sender text not null,
    set_by text not null,
    set_at timestamptz not null default now()
  )`,
  `comment on table outgoing is 'The mail server messages go out by.'`,
  `create table heartbeat (
    id boolean primary key default true check (id),
    beat_at timestamptz not null default now(),
    address text,
    called_at timestamptz,
    trouble text
  )`,
  `comment on table heartbeat is 'That what listens and tells is alive; and whom it tells so.'`,
  `insert into heartbeat default values`,
  `create table letter (
    id uuid primary key,
    message_id text not null unique,
    came_at timestamptz not null default now(),
    written_at timestamptz,
    sender text not null,
    recipients text[] not null,
    subject text not null,
    words text not null,
    is_ours boolean not null,
    unit uuid,
    settled_at timestamptz,
    settled_by text
  )`,
  `create index letter_newest on letter (came_at desc)`,
  `create index letter_waits on letter (unit) where settled_at is null`,
  `comment on table letter is 'Mails that came: what units write, and, where the shelf''s own mail comes here too, that.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
