import { randomUUID } from 'node:crypto';
import type { WorkMessage } from '../core/world/messages';
import type { Database } from './database';

/** What people are told once: work that is done, or stands still. */

export type NewMessage = Omit<WorkMessage, 'code'> & { readonly code: WorkMessage['code'] | 'overdue' };

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
  return rows.map(({ id, unit, job, code, sentence, about_at, made_at }) => ({
    id,
    unit,
    job,
    code: code as NewMessage['code'],
    sentence,
    aboutAt: about_at.toISOString(),
    madeAt: made_at.toISOString(),
  }));
}
