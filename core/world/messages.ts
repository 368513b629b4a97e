import { estimateOfJob } from '../rebuild/estimateOfJob';
import type { Finding } from '../rebuild/liveEstimate';
import { TASK_WORDS } from '../record/eventWords';
import { bayName } from '../unit/bayName';
import type { UnitEvent } from '../unit/event';
import type { Job, UnitState } from '../unit/state';
import type { Ledger } from './ledger';
import type { Written } from './act';
import { unitIn, type World } from './world';

/** What people are told of work under way, once. */
export interface WorkMessage {
  readonly unit: string;
  readonly job: string;
  readonly code: 'done' | 'ended' | Finding;
  readonly sentence: string;
  /** When the job began: one of the same name later is another one. */
  readonly aboutAt: string;
}

const FINDINGS: Readonly<Record<Finding, string>> = {
  stalled: 'stands still: look at the unit’s log for a drive that answers slowly, and do not restart it',
  slowed: 'goes slower than it did: look at the unit’s log',
  restarted: 'began anew: look at the unit’s log',
};

/**
 * What an act makes people be told: work that has just ended, or in which something odd was noticed.
 *
 * @param before the world the act was judged in
 * @param after the ledgers it touched, as they are after it
 */
export function messagesOf(
  before: World,
  after: readonly Ledger[],
  written: readonly Written[],
): readonly WorkMessage[] {
  return written.flatMap(({ kind, id, event }): WorkMessage[] => {
    if (kind !== 'unit' || !isOfWork(event as UnitEvent)) return [];
    const [was, now] = [
      unitIn(before, id),
      after.find((one) => one.kind === 'unit' && one.id === id)?.state as UnitState | null | undefined,
    ];
    return was && now ? ofWork(id, was, now, event as UnitEvent, before.used ?? {}) : [];
  });
}

/** Work has ended by it, or something was heard of work. */
export function isOfWork({ kind }: Pick<UnitEvent, 'kind'>): boolean {
  return kind === 'job-finished' || kind === 'job-aborted' || kind === 'job-progressed' || kind === 'job-restarted';
}

function ofWork(
  unit: string,
  before: UnitState,
  after: UnitState,
  event: UnitEvent,
  used: Readonly<Record<string, number>>,
): WorkMessage[] {
  const was = 'job' in event ? before.jobs[event.job] : undefined;
  if (!was) return [];
  const about = { unit, job: was.id, aboutAt: was.startedAt };
  const what = `${after.name}: ${workWords(before, was)}`;
  if (event.kind === 'job-finished') return [{ ...about, code: 'done', sentence: `${what} is done.` }];
  if (event.kind === 'job-aborted')
    return [{ ...about, code: 'ended', sentence: `${what} was stopped before its end.` }];
  const now = after.jobs[was.id];
  const found = now ? (estimateOfJob(after, now, { used })?.found ?? []) : [];
  return found.map((code) => ({ ...about, code, sentence: `${what} ${FINDINGS[code]}.` }));
}

function workWords(unit: UnitState, { task, onto }: Job): string {
  const bay = onto === undefined ? undefined : unit.drives[onto]?.bay;
  return `${TASK_WORDS[task]}${bay == null ? '' : `, ${bayName(unit, bay)},`}`;
}
