import { sql, type Kysely } from 'kysely';

/** Tokens that end by themselves, mail that is tried again one by one, guesses counted by account, a second factor. */
const STATEMENTS = [
  `alter table api_token add column expires_at timestamptz`,
  `comment on column api_token.expires_at is 'From then on it is worth nothing; null for one that is ended by hand.'`,
  `alter table message add column tries integer not null default 0, add column next_try_at timestamptz`,
  `comment on column message.next_try_at is 'Not before this is it tried again, after it was refused.'`,
  // As the sign-in library wants them, as the tables of 001.
  `alter table "auth"."user" add column "twoFactorEnabled" boolean`,
  `create table "auth"."twoFactor" ("id" text not null primary key, "secret" text not null, "backupCodes" text not null, "userId" text not null references "auth"."user" ("id") on delete cascade, "verified" boolean, "failedVerificationCount" integer, "lockedUntil" timestamptz)`,
  `create index "twoFactor_secret_idx" on "auth"."twoFactor" ("secret")`,
  `create index "twoFactor_userId_idx" on "auth"."twoFactor" ("userId")`,
  `create table sign_in_guess (account text not null, address text not null, at timestamptz not null default now())`,
  `create index sign_in_guess_account on sign_in_guess (account, at)`,
  `create index sign_in_guess_address on sign_in_guess (address, at)`,
  `comment on table sign_in_guess is 'Tries to sign in that have not (yet) come to anything; forgotten after an hour, and when one does.'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
