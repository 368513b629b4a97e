import { daysAfter } from '../../quantity/days';
import { NEARLY_DONE } from '../../rebuild/nearlyDone';
import { estimateOfJob } from '../../rebuild/estimateOfJob';
import { TASK_WORDS } from '../../record/eventWords';
import type { UnitEvent } from '../../unit/event';
import type { UnitState } from '../../unit/state';
import type { PlanStep, StepEvidence } from '../plan';
import type { Interlock } from './interlock';
import { jobEnding } from './jobEnding';
import { workAgain } from './workAgain';

/** Work rarely takes less than this of the time a plan reckoned with. */
const LEAST_SHARE = 0.5;

/**
 * What stops a wait from being ended too early, by the estimate or by the last percent that was heard: only the unit's own
 * page ends it then, and its "done" is said twice. A rebuild that is taken for done is a second copy that is not there.
 *
 * @param used bytes used by pool, as last read
 */
export function interlocksOfWait(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  used: Readonly<Record<string, number>> = {},
): Interlock[] {
  if (isSaidTwice(evidence)) return [];
  if (step.asks.kind === 'page')
    return [
      {
        kind: 'interlock',
        code: 'too-early',
        sentence: 'Only the unit’s own page says that it is well, and it is looked at twice.',
        back: 'Look at its page once more: does it say healthy, and no line of it of a rebuild or a check?',
        serial: '',
        mayOverride: false,
      },
    ];
  const job = jobEnding(unit, step);
  if (!job) return [];
  const estimate = estimateOfJob(unit, job, { used });
  // Of work that nothing was heard of, what the plan reckoned is all there is.
  const reckoned =
    estimate?.low ?? (step.hours === undefined ? undefined : daysAfter(job.startedAt, (step.hours * LEAST_SHARE) / 24));
  const isEarly = reckoned !== undefined && at < reckoned;
  const isFar = job.reports.length > 0 && job.percent < NEARLY_DONE;
  if (!isEarly && !isFar) return [];
  const what = TASK_WORDS[job.task];
  const heard =
    job.reports.length === 0
      ? 'Nothing was heard of it yet'
      : `At the last reading it stood at ${String(job.percent)} %`;
  // What was reckoned for a time that is past says nothing any more.
  const expected =
    reckoned === undefined || reckoned <= at
      ? ''
      : `, and by what is known it is not done before ${reckoned.slice(0, 16).replace('T', ' ')} UTC`;
  return [
    {
      kind: 'interlock',
      code: 'too-early',
      sentence: `This would be early for the ${what}. ${heard}${expected}.`,
      back:
        job.task === 'copy'
          ? 'Look where the copy runs, and say what it shows. Until it says done, the copy is not whole: change nothing of what it is made from.'
          : 'Look at the unit’s own page, and say what it shows. Until it says done, the pool is as thin as it was: pull nothing.',
      serial: job.onto ?? '',
      mayOverride: false,
    },
  ];
}

const AGAINST = {
  working: 'that it is still at work',
  stopped: 'that the work has stopped',
  other: 'something else',
} as const;

function isSaidTwice(evidence: StepEvidence): boolean {
  return evidence.kind === 'page' && evidence.says === 'done' && evidence.again === true;
}

/** What is recorded of a page that does not say done of what a step waits for or looks at; `null` where it does, or no page was looked at. */
export function eventsOfPage(unit: UnitState, step: PlanStep, evidence: StepEvidence): readonly UnitEvent[] | null {
  if (evidence.kind !== 'page' || evidence.says === 'done') return null;
  const job = jobEnding(unit, step);
  const words = evidence.note === undefined ? '' : `: ${evidence.note}`;
  const said = (what: string): UnitEvent => ({ kind: 'noted', note: `Its page ${what}${words}`.slice(0, 400) });
  // It had stopped, and begins anew: on the drive that is there.
  const again = job ? null : workAgain(unit, step);
  if (again)
    return evidence.says === 'working'
      ? [again, said('says that it is at work again')]
      : [said(`says ${AGAINST[evidence.says]}`)];
  // By the record the work is over. What the page says against it is a sign, until somebody settles it.
  if (!job)
    return step.asks.kind === 'page'
      ? [{ kind: 'sign-noted', note: `Its page says ${AGAINST[evidence.says]}${words}`.slice(0, 400) }]
      : null;
  if (evidence.says === 'working') return [said('says that it is still at work')];
  if (evidence.says === 'other')
    return [{ kind: 'sign-noted', note: `Its page says something else${words}`.slice(0, 400) }];
  return [{ kind: 'job-aborted', job: job.id }, said('says that the work has stopped')];
}
