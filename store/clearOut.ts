import { sql } from 'kysely';
import type { Database } from './database';

/** What is over is kept so long, in days: a year, and time to look back on it. */
export const KEPT_DAYS = 400;
/** The shelf's own mail, where it comes here too, is kept so long. */
export const OWN_MAIL_DAYS = 30;

/**
 * Takes away what nobody is told of any more and nobody waits for: causes and work that ended long ago and whom they were told,
 * mails that were settled long ago. What lasts, what is unsettled and everything in ledgers stays. In one transaction: of what is
 * told nothing is left that could be told again.
 *
 * @returns how many rows went
 */
export async function clearOut(db: Database): Promise<number> {
  return db.transaction().execute(async (tx) => {
    const longAgo = sql<Date>`now() - make_interval(days => ${KEPT_DAYS}::int)`;
    const cause = await tx.deleteFrom('cause').where('closed_at', '<', longAgo).executeTakeFirst();
    const message = await tx.deleteFrom('message').where('made_at', '<', longAgo).executeTakeFirst();
    const letter = await tx.deleteFrom('letter').where('settled_at', '<', longAgo).executeTakeFirst();
    const own = await tx
      .deleteFrom('letter')
      .where('is_ours', '=', true)
      .where('came_at', '<', sql<Date>`now() - make_interval(days => ${OWN_MAIL_DAYS}::int)`)
      .executeTakeFirst();
    const told = await tx
      .deleteFrom('told')
      .where('at', '<', longAgo)
      .where(({ not, exists, selectFrom }) =>
        not(exists(selectFrom('cause').select('id').whereRef('cause.id', '=', 'told.about'))),
      )
      .where(({ not, exists, selectFrom }) =>
        not(exists(selectFrom('message').select('id').whereRef('message.id', '=', 'told.about'))),
      )
      .executeTakeFirst();
    return [cause, message, letter, own, told].reduce((sum, { numDeletedRows }) => sum + Number(numDeletedRows), 0);
  });
}
