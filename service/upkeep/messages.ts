import { TASK_WORDS } from '../../core/record/eventWords';
import { estimateOfJob } from '../../core/rebuild/estimateOfJob';
import type { Finding } from '../../core/rebuild/liveEstimate';
import { bayName } from '../../core/unit/bayName';
import type { UnitEvent } from '../../core/unit/event';
import type { Job, UnitState } from '../../core/unit/state';
import type { Database, Work } from '../../store/database';
import { addMessages, newestMessages, type Message, type NewMessage } from '../../store/messages';
import { usedOf } from '../../store/readings';
import { waitsNow } from '../../store/shelf';
import type { App } from '../app';

export type { Message };

const FINDINGS: Readonly<Record<Finding, string>> = {
  stalled: 'stands still: look at the unit’s log for a drive that answers slowly, and do not restart it',
  slowed: 'goes slower than it did: look at the unit’s log',
  restarted: 'began anew: look at the unit’s log',
};

/** Tells of work that has just ended, or in which something odd was noticed. */
export async function tellOfWork(work: Work, unit: string, before: UnitState | null, after: UnitState, events: readonly UnitEvent[]): Promise<void> {
  const told = events.filter(({ kind }) => kind === 'job-finished' || kind === 'job-aborted' || kind === 'job-progressed' || kind === 'job-restarted');
  if (told.length === 0 || before === null) return;
  const used = await usedOf(work, Object.keys(after.pools));
  const messages = told.flatMap((event): NewMessage[] => {
    if (!('job' in event)) return [];
    const was = before.jobs[event.job];
    if (!was) return [];
    const about = { unit, job: was.id, aboutAt: was.startedAt };
    const what = `${after.name}: ${workWords(before, was)}`;
    if (event.kind === 'job-finished') return [{ ...about, code: 'done', sentence: `${what} is done.` }];
    if (event.kind === 'job-aborted') return [{ ...about, code: 'ended', sentence: `${what} was stopped before its end.` }];
    const now = after.jobs[event.job];
    const found = now ? (estimateOfJob(after, now, used)?.found ?? []) : [];
    return found.map((code) => ({ ...about, code, sentence: `${what} ${FINDINGS[code]}.` }));
  });
  await addMessages(work, messages);
}

function workWords(unit: UnitState, { task, onto }: Job): string {
  const bay = onto === undefined ? undefined : unit.drives[onto]?.bay;
  return `${TASK_WORDS[task]}${bay == null ? '' : `, ${bayName(unit, bay)},`}`;
}

const MOST_WAITS = 500;

/** Tells of work that ought to be done by now and of which nothing was heard. */
export async function tellOverdue(db: Database, now: Date): Promise<void> {
  const late = (await waitsNow(db, MOST_WAITS)).filter(({ estimate }) => estimate !== null && Date.parse(estimate.high) < now.getTime());
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
