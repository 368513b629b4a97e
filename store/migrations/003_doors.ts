import { sql, type Kysely } from 'kysely';

/** Tokens that end by themselves, and mail that is tried again one by one. */
const STATEMENTS = [
  `alter table api_token add column expires_at timestamptz`,
  `comment on column api_token.expires_at is 'From then on it is worth nothing; null for one that is ended by hand.'`,
  `alter table message add column tries integer not null default 0, add column next_try_at timestamptz`,
  `comment on column message.next_try_at is 'Not before this is it tried again, after it was refused.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
