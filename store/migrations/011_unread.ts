import { sql, type Kysely } from 'kysely';

/** Why a mail could not be read; its words are then what came. */
const STATEMENTS = [`alter table letter add column unread_because text`];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
