import { waitsForJob } from '~/core/planRun/progress';
import type { PlanStep } from '~/core/plan/plan';
import type { Job, UnitState } from '~/core/unit/state';

/** The running work a step waits for. */
export function jobOf({ jobs }: UnitState, step: PlanStep): Job | undefined {
  return step.kind === 'wait'
    ? Object.values(jobs).find((job) =>
        waitsForJob({ plan: { job: 'replace', title: '', steps: [step] }, done: {} }, job),
      )
    : undefined;
}
