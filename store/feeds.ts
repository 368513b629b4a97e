import type { Database } from './database';

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

export async function isFeed(db: Database, hash: string): Promise<boolean> {
  return (await db.selectFrom('calendar_feed').select('user_id').where('hash', '=', hash).executeTakeFirst()) !== undefined;
}
