import { sql } from 'kysely';
import { randomUUID } from 'node:crypto';
import type { WorkMessage } from '../core/world/messages';
import type { Database } from './database';

/** What people are told once: work that is done, or stands still. */

export type NewMessage = Omit<WorkMessage, 'code'> & {
  readonly code: WorkMessage['code'] | 'overdue' | 'noticed' | 'silent';
};

export type Message = NewMessage & { readonly id: string; readonly madeAt: string };

/** Adds what has not been told yet. */
export async function addMessages(db: Database, messages: readonly NewMessage[]): Promise<void> {
  if (messages.length === 0) return;
  await db
    .insertInto('message')
    .values(messages.map(({ aboutAt, ...message }) => ({ ...message, id: randomUUID(), about_at: aboutAt })))
    .onConflict((conflict) => conflict.columns(['unit', 'job', 'about_at', 'code']).doNothing())
    .execute();
}

export async function newestMessages(db: Database, since: Date, most: number): Promise<Message[]> {
  const rows = await db
    .selectFrom('message')
    .selectAll()
    .where('made_at', '>=', since)
    .orderBy('made_at', 'desc')
    .limit(most)
    .execute();
  return rows.map(toMessage);
}

/** What came of handing over what was not sent yet. */
export interface HandedOver {
  readonly sent: number;
  /** Why the others were refused; they are tried again later, each by itself. */
  readonly refused: readonly string[];
}

/**
 * Hands over what was not sent yet, each in a transaction of its own: what was taken is not sent again because another was
 * refused. Any number of processes may do so at once.
 */
export async function handOver(
  db: Database,
  most: number,
  deliver: (message: Message) => Promise<void>,
): Promise<HandedOver> {
  const refused: string[] = [];
  for (let sent = 0; ;) {
    if (sent + refused.length >= most) return { sent, refused };
    const came = await db.transaction().execute(async (tx) => {
      const row = await tx
        .selectFrom('message')
        .selectAll()
        .where('mailed_at', 'is', null)
        .where((where) => where.or([where('next_try_at', 'is', null), where('next_try_at', '<=', sql<Date>`now()`)]))
        .orderBy('made_at')
        .limit(1)
        .forUpdate()
        .skipLocked()
        .executeTakeFirst();
      if (!row) return 'none';
      const { id, tries } = row;
      try {
        await deliver(toMessage(row));
      } catch (error) {
        const wait = sql<Date>`now() + make_interval(mins => ${Math.min(MOST_WAIT_MINUTES, 2 ** Math.min(tries, 10))}::int)`;
        await tx
          .updateTable('message')
          .set({ tries: tries + 1, next_try_at: wait })
          .where('id', '=', id)
          .execute();
        return error as Error;
      }
      await tx
        .updateTable('message')
        .set({ mailed_at: sql<Date>`now()`, tries: tries + 1 })
        .where('id', '=', id)
        .execute();
      return 'sent';
    });
    if (came === 'none') return { sent, refused };
    if (came === 'sent') sent++;
    else refused.push(came.message);
  }
}

/** One that is refused again and again is tried again at least this often. */
const MOST_WAIT_MINUTES = 60;

function toMessage(row: {
  id: string;
  unit: string;
  job: string;
  code: string;
  sentence: string;
  about_at: Date;
  made_at: Date;
}): Message {
  const { id, unit, job, code, sentence, about_at, made_at } = row;
  return {
    id,
    unit,
    job,
    code: code as NewMessage['code'],
    sentence,
    aboutAt: about_at.toISOString(),
    madeAt: made_at.toISOString(),
  };
}
