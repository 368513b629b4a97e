import { sql, type Kysely } from 'kysely';

/** Comparisons kept by name, and platform profiles of the user's own. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table comparison (
      id uuid primary key,
      name text not null,
      body jsonb not null,
      kept_by text not null,
      kept_at timestamptz not null default now()
    )`.execute(db);
  await sql`
    create table profile (
      id text primary key,
      body jsonb not null,
      changed_by text not null,
      changed_at timestamptz not null default now()
    )`.execute(db);
  await sql`comment on table profile is 'Platform profiles of the user''s own; one with the id of a shipped one takes its place.'`.execute(db);
}
