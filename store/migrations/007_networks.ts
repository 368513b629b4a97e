import { sql, type Kysely } from 'kysely';

/** Networks besides the private ones in which an owner lets units be asked. */
const STATEMENTS = [
  `create table watch_network (
    network text primary key,
    allowed_by text not null,
    allowed_at timestamptz not null default now()
  )`,
  `comment on table watch_network is 'By number and bits, in the form in which they are compared.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
