import { sql, type Kysely } from 'kysely';

/** Bearer tokens, and what is said of the organisation as a whole. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table api_token (
      id uuid primary key,
      user_id text not null references auth."user" (id) on delete cascade,
      name text not null,
      hash text not null unique,
      scopes text[] not null,
      created_at timestamptz not null default now(),
      last_used_at timestamptz,
      revoked_at timestamptz
    )`.execute(db);
  await sql`comment on column api_token.hash is 'SHA-256 of the token, hex. The token itself is shown once and not kept.'`.execute(db);

  await sql`
    create table organisation (
      id boolean primary key default true check (id),
      name text not null,
      currency text not null,
      is_demo boolean not null default false
    )`.execute(db);
}
