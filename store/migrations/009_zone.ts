import { sql, type Kysely } from 'kysely';

/** Where people work: office hours are by the clocks there. */
const STATEMENTS = [
  `alter table organisation add column time_zone text`,
  `comment on column organisation.time_zone is 'By its name in the IANA data base; where the application runs, while nobody said.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
