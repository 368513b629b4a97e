import type { Database, Transaction } from './database';
import { personOfEmail } from './people';

/** A calendar address somebody has, by the hash it is known by. */
export interface Feed {
  readonly person: string;
  readonly hash: string;
  readonly madeAt: string;
}

/** Whether somebody has a calendar feed; its address is known by its hash only. */
export async function feedOf(db: Database, userId: string): Promise<{ readonly madeAt: string } | undefined> {
  const row = await db.selectFrom('calendar_feed').select('made_at').where('user_id', '=', userId).executeTakeFirst();
  return row && { madeAt: row.made_at.toISOString() };
}

/** A new address; the one before stops working. */
export async function saveFeed(db: Database, userId: string, hash: string): Promise<void> {
  await db
    .insertInto('calendar_feed')
    .values({ user_id: userId, hash })
    .onConflict((conflict) => conflict.column('user_id').doUpdateSet({ hash, made_at: new Date() }))
    .execute();
}

export async function deleteFeed(db: Database, userId: string): Promise<boolean> {
  return (await db.deleteFrom('calendar_feed').where('user_id', '=', userId).executeTakeFirst()).numDeletedRows > 0n;
}

/** Every address, by the e-mail of whose it is. */
export async function allFeeds(db: Database): Promise<Feed[]> {
  const rows = await db
    .selectFrom('calendar_feed')
    .innerJoin('auth.user', 'auth.user.id', 'calendar_feed.user_id')
    .select(['auth.user.email', 'hash', 'made_at'])
    .orderBy('auth.user.email')
    .execute();
  return rows.map((row) => ({ person: row.email, hash: row.hash, madeAt: row.made_at.toISOString() }));
}

/** Gives somebody an address of before, where there is such a person and none has been made since. */
export async function bringFeed(
  tx: Transaction,
  { person, hash, madeAt }: Feed,
): Promise<'added' | 'there' | 'nobody'> {
  const userId = await personOfEmail(tx, person);
  if (userId === undefined) return 'nobody';
  const made = await tx
    .insertInto('calendar_feed')
    .values({ user_id: userId, hash, made_at: madeAt })
    .onConflict((conflict) => conflict.doNothing())
    .returning('user_id')
    .executeTakeFirst();
  return made ? 'added' : 'there';
}

export async function isFeed(db: Database, hash: string): Promise<boolean> {
  return (
    (await db.selectFrom('calendar_feed').select('user_id').where('hash', '=', hash).executeTakeFirst()) !== undefined
  );
}
