import { sql, type Kysely } from 'kysely';

/** Units that are asked how they are. */
const STATEMENTS = [
  `create table watch (
    unit uuid primary key,
    address text not null,
    user_name text not null,
    secret bytea not null,
    fingerprint text,
    every_seconds integer not null check (every_seconds between 10 and 86400),
    is_on boolean not null default true,
    next_at timestamptz not null default now(),
    held_until timestamptz,
    asked_at timestamptz,
    heard_at timestamptz,
    read_at timestamptz,
    fails integer not null default 0,
    silent_since timestamptz,
    trouble jsonb,
    seen jsonb,
    lit jsonb not null default '{}',
    subscription text,
    events bigint not null default 0,
    set_by text not null,
    set_at timestamptz not null default now()
  )`,
  `create index watch_due on watch (next_at) where is_on`,
  `comment on table watch is 'Units that are asked how they are, where, and what they said last. No row of it is ever a fact: facts go into the ledger.'`,
  `comment on column watch.secret is 'Sealed with a key that is not in the database.'`,
  `comment on column watch.held_until is 'Somebody is asking it now; nobody else does before this.'`,
  `comment on column watch.lit is 'Locate lights that were switched on here, by bay, with when they go off again by themselves.'`,
  `comment on column watch.subscription is 'Where it keeps that it is to tell us of events; empty where it would not; null before it was asked.'`,
  `comment on column watch.fingerprint is 'SHA-256 of its certificate, as it was first seen; null before.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
