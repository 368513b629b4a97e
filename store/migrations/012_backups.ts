import { sql, type Kysely } from 'kysely';

const STATEMENTS = [
  `create table backup_made (
    n bigint generated always as identity primary key,
    at timestamptz not null default now(),
    bytes bigint not null,
    entries bigint not null
  )`,
  `comment on table backup_made is 'Backups that were written whole and read back. The owner of the tables notes them, after the file is there.'`,
  `alter table watch add column ended_at timestamptz`,
  `comment on column watch.ended_at is 'When the last look at it ended, whatever it came to.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
