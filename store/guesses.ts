import { sql } from 'kysely';
import type { Database } from './database';

/** Tries to sign in that have not come to anything. */
export interface Guesses {
  /** By this address at this account, within the last minute. */
  readonly here: number;
  /** At this account within the last hour, from addresses its person has no session at. */
  readonly strangers: number;
  /** Whether the account's person has a session at this address. */
  readonly isFamiliar: boolean;
  /** By this address at whatever account, within the last minute. */
  readonly byAddress: number;
}

/** Counts one more, and says how many there are with it: counted first, so that many at once count each other. */
export async function countGuess(db: Database, account: string, address: string): Promise<Guesses> {
  await sql`delete from sign_in_guess where at < now() - interval '1 hour'`.execute(db);
  await db.insertInto('sign_in_guess').values({ account, address }).execute();
  const { rows } = await sql<{ here: string; strangers: string; by_address: string; is_familiar: boolean }>`
    with known as (
      select distinct session."ipAddress" as address from auth.session join auth."user" person on person.id = session."userId" where person.email = ${account}
    )
    select
      (select count(*) from sign_in_guess where account = ${account} and address = ${address} and at > now() - interval '1 minute') as here,
      (select count(*) from sign_in_guess where account = ${account} and address not in (select known.address from known where known.address is not null)) as strangers,
      (select count(*) from sign_in_guess where address = ${address} and at > now() - interval '1 minute') as by_address,
      exists (select from known where known.address = ${address}) as is_familiar`.execute(db);
  const row = rows[0] as (typeof rows)[number];
  return {
    here: Number(row.here),
    strangers: Number(row.strangers),
    byAddress: Number(row.by_address),
    isFamiliar: row.is_familiar,
  };
}

/** It was no guess after all. */
export async function forgetGuesses(db: Database, account: string, address: string): Promise<void> {
  await db.deleteFrom('sign_in_guess').where('account', '=', account).where('address', '=', address).execute();
}
