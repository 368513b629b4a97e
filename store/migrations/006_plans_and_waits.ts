import { sql, type Kysely } from 'kysely';

/** When each wait will be over, and what there is to tell people. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table wait_now add column estimate jsonb, add column plan text`.execute(db);
  await sql`
    create table message (
      id uuid primary key,
      unit uuid not null,
      job text not null,
      code text not null,
      sentence text not null,
      about_at timestamptz not null,
      made_at timestamptz not null default now(),
      mailed_at timestamptz,
      unique (unit, job, about_at, code)
    )`.execute(db);
  await sql`create index message_newest on message (made_at desc)`.execute(db);
  await sql`comment on table message is 'What people are told once: work that is done, or stands still. mailed_at is set when it was sent.'`.execute(db);

  // States have more in them than before: every one is folded again from its ledger.
  await sql`delete from unit_now`.execute(db);
}
