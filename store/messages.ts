import { randomUUID } from 'node:crypto';
import type { WorkMessage } from '../core/world/messages';
import type { Database, Work } from './database';

/** What people are told once: work that is done, or stands still. */

export type NewMessage = Omit<WorkMessage, 'code'> & { readonly code: WorkMessage['code'] | 'overdue' };

export type Message = NewMessage & { readonly id: string; readonly madeAt: string };

/** Adds what has not been told yet. */
export async function addMessages(work: Work | Database, messages: readonly NewMessage[]): Promise<void> {
  if (messages.length === 0) return;
  await work
    .insertInto('message')
    .values(messages.map(({ aboutAt, ...message }) => ({ ...message, id: randomUUID(), about_at: aboutAt })))
    .onConflict((conflict) => conflict.columns(['unit', 'job', 'about_at', 'code']).doNothing())
    .execute();
}

export async function newestMessages(db: Database, since: Date, most: number): Promise<Message[]> {
  const rows = await db.selectFrom('message').selectAll().where('made_at', '>=', since).orderBy('made_at', 'desc').limit(most).execute();
  return rows.map(toMessage);
}

/** Hands over what was not sent yet, one after another; any number of processes may do so at once. Returns how many. */
export async function handOver(db: Database, most: number, deliver: (message: Message) => Promise<void>): Promise<number> {
  return db.transaction().execute(async (work) => {
    const rows = await work.selectFrom('message').selectAll().where('mailed_at', 'is', null).orderBy('made_at').limit(most).forUpdate().skipLocked().execute();
    for (const row of rows) {
      await deliver(toMessage(row));
      await work.updateTable('message').set({ mailed_at: new Date() }).where('id', '=', row.id).execute();
    }
    return rows.length;
  });
}

function toMessage(row: { id: string; unit: string; job: string; code: string; sentence: string; about_at: Date; made_at: Date }): Message {
  const { id, unit, job, code, sentence, about_at, made_at } = row;
  return { id, unit, job, code: code as NewMessage['code'], sentence, aboutAt: about_at.toISOString(), madeAt: made_at.toISOString() };
}
