import { TASK_WORDS } from '../../core/record/eventWords';
import type { Database } from '../../store/database';
import { addMessages, newestMessages, type Message } from '../../store/messages';
import { waitsNow } from '../../store/shelf';
import type { App } from '../app';

export type { Message };

const MOST_WAITS = 500;

/** Tells of work that ought to be done by now and of which nothing was heard. */
export async function tellOverdue(db: Database, now: Date): Promise<void> {
  const late = (await waitsNow(db, MOST_WAITS)).filter(
    ({ estimate }) => estimate !== null && Date.parse(estimate.high) < now.getTime(),
  );
  await addMessages(
    db,
    late.map(({ unit, unitName, job, task, bay, startedAt, estimate }) => ({
      unit,
      job,
      code: 'overdue' as const,
      aboutAt: startedAt,
      sentence: `${unitName}: ${TASK_WORDS[task]}${bay === null ? '' : `, ${bay},`} ought to have been done by ${estimate?.high.slice(0, 16).replace('T', ' ') ?? ''} UTC. Look at the unit, and enter what it shows.`,
    })),
  );
}

/** What people were told in the last days, newest first. */
export function readMessages(app: App, now: Date, most: number): Promise<Message[]> {
  return newestMessages(app.db, new Date(now.getTime() - SHOWN_DAYS * 86_400_000), most);
}

const SHOWN_DAYS = 4;
