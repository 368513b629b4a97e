import { daysAfter } from '../../quantity/days';
import { isRefusal, type Refusal } from '../../value/refusal';
import { marginOfPool } from '../../unit/margin';
import type { Hazard } from '../../unit/preview';
import type { UnitEvent } from '../../unit/event';
import { poolsOf, type UnitState } from '../../unit/state';
import { attempt } from './attempt';
import type { Interlock } from './interlock';
import type { PlanBody, PlanStep, StepEvidence } from '../plan';

/** The state after a step, what it took, and what a person must hear before. */
export interface DryStep {
  readonly kind: 'dry-step';
  readonly step: string;
  readonly at: string;
  readonly after: UnitState;
  readonly events: readonly UnitEvent[];
  /** Margin by pool. */
  readonly margin: Readonly<Record<string, number>>;
  readonly usableBytes: number;
  readonly hazards: readonly Hazard[];
  /** What would stop it, on the way the plan takes. */
  readonly interlocks: readonly Interlock[];
}

/** A step that cannot be done as planned, and why. */
export interface DryStop {
  readonly kind: 'dry-stop';
  readonly step: string;
  readonly refusal: Refusal;
}

/** Between two steps that say nothing of how long they take. */
const USUAL_STEP_HOURS = 0.05;

/**
 * Folds what a plan means to do through the one model, step by step, with the evidence it expects. Stops at the first
 * step that cannot be done, and says which.
 *
 * @param at when it begins (ISO 8601)
 */
export function dryRun(unit: UnitState, plan: PlanBody, at: string): readonly (DryStep | DryStop)[] {
  const run: (DryStep | DryStop)[] = [];
  let [state, time] = [unit, at];
  for (const step of plan.steps) {
    time = daysAfter(time, (step.hours ?? USUAL_STEP_HOURS) / 24);
    const seen = attempt(state, step, expectedEvidence(step), time);
    if (isRefusal(seen)) return [...run, { kind: 'dry-stop', step: step.id, refusal: seen }];
    const { events, after, hazards, interlocks } = seen;
    state = after;
    const margin = Object.fromEntries(poolsOf(state).map((pool) => [pool.id, marginOfPool(pool)]));
    const usableBytes = Object.values(state.pools).reduce((sum, pool) => sum + pool.usableBytes, 0);
    run.push({
      kind: 'dry-step',
      step: step.id,
      at: time,
      after: state,
      events,
      margin,
      usableBytes,
      hazards,
      interlocks,
    });
  }
  return run;
}

/** Begins what a drive is called in a dry run whose serial nobody has read yet; its bay follows. */
const NOT_READ_YET = 'PLANNED-';

/** A sentence of a dry run with such drives called by their bays. */
export function byBays(sentence: string): string {
  return sentence.replaceAll(NOT_READ_YET, 'bay ');
}

/** The evidence a step would get if everything went as planned. */
export function expectedEvidence({ asks, does }: PlanStep): StepEvidence {
  switch (asks.kind) {
    case 'tick':
      // A wait ends when the unit says so.
      return does.some(({ kind }) => kind === 'finish-rebuild' || kind === 'finish-job')
        ? { kind: 'page', says: 'done', again: true }
        : { kind: 'tick' };
    case 'serial': {
      const planned = does.flatMap((one): { readonly bay: string; readonly serial?: string }[] =>
        one.kind === 'fit-drive' || one.kind === 'take-drive'
          ? [one.drive]
          : one.kind === 'start-rebuild'
            ? [{ bay: one.bay }]
            : [],
      )[0];
      return { kind: 'serial', serial: asks.expects ?? planned?.serial ?? `${NOT_READ_YET}${planned?.bay ?? ''}` };
    }
    case 'text':
      return { kind: 'text', text: 'as planned' };
    case 'number': {
      const count = does.find((one) => one.kind === 'count-drives');
      return { kind: 'number', number: count?.kind === 'count-drives' ? count.expected : (asks.least ?? 0) };
    }
    case 'scans':
      return {
        kind: 'scans',
        scans: asks.bays.map(({ bay, expects }) => ({ bay, serial: expects ?? `${NOT_READ_YET}${bay}` })),
      };
    case 'choice':
      return { kind: 'choice', choice: asks.options[0] ?? '' };
    case 'speed':
      return { kind: 'speed', read: 100, write: 100 };
    case 'page':
      return { kind: 'page', says: 'done', again: true };
    case 'picture':
      return { kind: 'picture', paper: '00000000-0000-0000-0000-000000000000' };
  }
}
