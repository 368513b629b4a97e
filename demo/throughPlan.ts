import { attempt } from '../core/plan/attempt';
import { expectedEvidence } from '../core/plan/dryRun';
import { replacePlan, type ReplaceWish } from '../core/plan/replace';
import { foldUnit } from '../core/unit/fold';
import type { UnitState } from '../core/unit/state';
import { isRefusal, type Refusal } from '../core/value/refusal';
import type { Entry } from '../service/unitLedger';

const PLAN = 'replace-1';

/**
 * A unit's past with a replacement in it, begun and worked through as a person would have: by the same plan, the same
 * steps and the same evidence as everybody's.
 *
 * @param entries in the order they happened
 * @param steps how many of its first steps are done, each at its time
 */
export function throughPlan(entries: readonly Entry[], startedAt: string, wish: ReplaceWish, steps: readonly string[]): Entry[] {
  const all = [...entries];
  const stateAt = (time: string): UnitState =>
    must(foldUnit(all.filter(({ happenedAt }) => happenedAt <= time).map(({ event, happenedAt }, i) => ({ seq: i + 1, event, happenedAt }))));
  const body = must(replacePlan(stateAt(startedAt), wish));
  all.push({ event: { kind: 'plan-started', plan: PLAN, body }, happenedAt: startedAt });
  for (const [i, at] of steps.entries()) {
    const step = body.steps[i];
    if (!step) break;
    const evidence = expectedEvidence(step);
    const { events } = must(attempt(stateAt(at), step, evidence, at));
    for (const event of [{ kind: 'step-done' as const, plan: PLAN, step: step.id, evidence, causes: events.length }, ...events])
      all.push({ event, happenedAt: at });
  }
  return all.sort((a, b) => (a.happenedAt < b.happenedAt ? -1 : a.happenedAt > b.happenedAt ? 1 : 0));
}

function must<T>(value: T | Refusal): T {
  if (isRefusal(value)) throw new Error(`The demo does not fold: ${value.sentence}`);
  return value;
}
