import type { PlanStep } from '../../schemas/plan';
import type { PlanRun } from './planRun';
import { lastDone, nextStep, waitsFor } from './progress';

const step = (id: string, ...after: string[]) => ({ id, after, does: [], title: id }) as unknown as PlanStep;
const steps = [step('look'), step('pull', 'look'), step('count'), step('fill', 'pull')];
const run = (done: Record<string, string>): Pick<PlanRun, 'plan' | 'done'> => ({
  plan: { steps } as unknown as PlanRun['plan'],
  done: Object.fromEntries(Object.entries(done).map(([id, at]) => [id, { at }])),
});

describe('how far a plan is', () => {
  it('leads to the first step that waits for nothing', () => {
    expect(nextStep(run({}))?.id).toBe('look');
    expect(waitsFor(run({}), steps[3] as PlanStep).map(({ id }) => id)).toEqual(['pull']);
    expect(nextStep(run({ look: '1', pull: '2', count: '3', fill: '4' }))).toBeNull();
  });

  it('knows what was done last: by when it happened, not by where it stands', () => {
    expect(lastDone(run({}))).toBeNull();
    expect(lastDone(run({ count: '2026-01-02', look: '2026-01-03' }))?.id).toBe('look');
    // A sheet enters several steps at one moment.
    expect(lastDone(run({ look: '2026-01-03', pull: '2026-01-03', count: '2026-01-01' }))?.id).toBe('pull');
  });
});
