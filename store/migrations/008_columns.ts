import { sql, type Kysely } from 'kysely';

/** Which columns of the list a unit writes out are what. */
const STATEMENTS = [
  `create table report_columns (
    unit uuid primary key,
    profile text not null,
    columns jsonb not null,
    set_by text not null,
    set_at timestamptz not null default now()
  )`,
  `comment on table report_columns is 'By headings; units of one family write alike.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
