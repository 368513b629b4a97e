import { sql, type Kysely } from 'kysely';

/** What drives cost, as it is kept for everybody who plans with it. */
const STATEMENTS = [
  `create table price_list (
    id boolean primary key default true check (id),
    body jsonb not null,
    set_by text not null,
    set_at timestamptz not null default now()
  )`,
  `comment on table price_list is 'What drives and work cost, what may be spent, and how long a delivery takes.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
