import { sql, type Kysely } from 'kysely';

/** When each wait will be over, and what there is to tell people. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table need_now add column shown jsonb`.execute(db);
  await sql`drop index need_now_urgency`.execute(db);
  await sql`create index need_now_shown on need_now (urgency) where shown is not null`.execute(db);
  await sql`create index need_now_conditional on need_now (unit) where need ? 'unless'`.execute(db);
  await sql`comment on column need_now.shown is 'The need as it stands against what lies in the drawers; null while a drawer meets it.'`.execute(db);
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
