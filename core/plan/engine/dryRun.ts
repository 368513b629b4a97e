import { dayOf, daysAfter } from '../../quantity/days';
import { isRefusal, type Refusal } from '../../value/refusal';
import { apply } from '../../unit/apply';
import { contentsOf } from '../../unit/applyPoolMoved';
import { marginOfPool } from '../../unit/margin';
import { entryOf } from '../../value/entryOf';
import type { Hazard } from '../../unit/preview';
import type { UnitEvent } from '../../unit/event';
import { bayName } from '../../unit/bayName';
import { poolsOf, type UnitState } from '../../unit/state';
import type { PlanRun } from '../../planRun/planRun';
import { attempt, type Attempt } from './attempt';
import type { Units } from './carrying';
import { fitting } from './fitting';
import { expectedSerial } from './expectedSerial';
import type { Interlock } from './interlock';
import { sizeFacts } from './driveFacts';
import { drivesRead } from './drivesRead';
import { knowsWith } from './laidOut';
import type { PlanBody, PlanStep, StepEvidence } from '../plan';
import { partOf, unitsOfStep } from './unitsOfStep';

/** The state after a step, what it took, and what a person must hear before. */
export interface DryStep {
  readonly kind: 'dry-step';
  readonly step: string;
  readonly at: string;
  /** The first unit it acts on. */
  readonly after: UnitState;
  /** Every unit it acts on, by its id. */
  readonly states: Units;
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
  const id = plan.steps.flatMap(({ does }) => does.flatMap((one) => one.unit ?? []))[0] ?? 'unit';
  return dryRunOver({ [id]: unit }, plan, at);
}

/**
 * The same over all units a plan acts on.
 *
 * @param units their states by id, the first first
 * @param done what was given for its steps already: drives that were read go in as they are
 */
export function dryRunOver(
  units: Units,
  plan: PlanBody,
  at: string,
  done: PlanRun['done'] = {},
): readonly (DryStep | DryStop)[] {
  const run: (DryStep | DryStop)[] = [];
  const ids = Object.keys(units);
  const first = ids[0] as string;
  const read = drivesRead(done);
  const knows = knowsWith(done, undefined);
  let [states, time] = [units, at];
  for (const step of plan.steps) {
    time = daysAfter(time, (step.hours ?? USUAL_STEP_HOURS) / 24);
    const before = states;
    const seen: Pick<Attempt, 'events' | 'hazards' | 'interlocks'>[] = [];
    for (const id of unitsOfStep(step, ids)) {
      const tried = attempt(
        before[id] as UnitState,
        partOf(step, id, first),
        withReadDrive(step, expectedEvidence(step, time, before[id]), read, Object.values(before)),
        time,
        { units: before, knows },
      );
      if (isRefusal(tried)) return [...run, { kind: 'dry-stop', step: step.id, refusal: tried }];
      states = { ...states, [id]: withContents(tried, before, time) };
      seen.push(tried);
    }
    const pools = Object.values(states).flatMap(poolsOf);
    run.push({
      kind: 'dry-step',
      step: step.id,
      at: time,
      after: states[first] as UnitState,
      states,
      events: seen.flatMap(({ events }) => events),
      margin: Object.fromEntries(pools.map((pool) => [pool.id, marginOfPool(pool)])),
      usableBytes: pools.reduce((sum, pool) => sum + pool.usableBytes, 0),
      hazards: seen.flatMap(({ hazards }) => hazards),
      interlocks: seen.flatMap(({ interlocks }) => interlocks),
    });
  }
  return run;
}

/** What is in a pool comes along where it arrives. */
function withContents({ events, after }: Attempt, before: Units, at: string): UnitState {
  return events.reduce((unit, event) => {
    const from = event.kind === 'pool-arrived' ? entryOf(before, event.from ?? '') : undefined;
    if (event.kind !== 'pool-arrived' || !from) return unit;
    const filled = apply(unit, { kind: 'pool-contents', pool: event.pool, ...contentsOf(from, event.pool) }, at);
    return isRefusal(filled) ? unit : filled;
  }, after);
}

/** A run as one pool lives through it: at each step the unit that has it then. */
export function runOfPool(run: readonly (DryStep | DryStop)[], pool: string): readonly (DryStep | DryStop)[] {
  return run.map((step) =>
    step.kind === 'dry-stop'
      ? step
      : { ...step, after: Object.values(step.states).find(({ pools }) => Object.hasOwn(pools, pool)) ?? step.after },
  );
}

/** Begins what a drive is called in a dry run whose serial nobody has read yet; its bay follows. */
const NOT_READ_YET = 'PLANNED-';

/** A sentence of a dry run with such drives called by their bays, as the unit they go into counts them. */
export function byBays(sentence: string, unit: Pick<UnitState, 'enclosures'>): string {
  return sentence.replace(new RegExp(`${NOT_READ_YET}(\\w(?:[\\w.:-]*\\w)?)`, 'g'), (_whole, bay: string) =>
    bayName(unit, bay),
  );
}

/** A drive nobody planned by its serial is the next of those that were laid out. */
function withReadDrive(
  { does }: PlanStep,
  evidence: StepEvidence,
  read: ReturnType<typeof drivesRead>,
  units: readonly UnitState[],
): StepEvidence {
  if (
    evidence.kind !== 'serial' ||
    !evidence.serial.startsWith(NOT_READ_YET) ||
    !does.some(({ kind }) => kind === 'fit-drive')
  )
    return evidence;
  const next = read.find(({ serial }) => !units.some(({ drives }) => drives[serial]?.bay != null));
  return next ? { kind: 'serial', serial: next.serial } : evidence;
}

/** The evidence a step would get at a moment (ISO 8601), on the unit as it is then, if everything went as planned. */
export function expectedEvidence(step: PlanStep, at: string, unit?: UnitState): StepEvidence {
  const { asks, does } = step;
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
      // The drive that was fitted since is the one that is meant, whatever was planned.
      const there = unit && expectedSerial(unit, step);
      const fit = fitting(step);
      return {
        kind: 'serial',
        serial: there ?? asks.expects ?? planned?.serial ?? `${NOT_READ_YET}${planned?.bay ?? ''}`,
        ...(fit ? { drive: sizeFacts(fit.drive) } : {}),
      };
    }
    case 'text':
      return { kind: 'text', text: 'as planned' };
    case 'number': {
      const count = does.find((one) => one.kind === 'count-drives');
      const space = does.find((one) => one.kind === 'see-space');
      // In what its page counts in at most as many.
      if (space?.kind === 'see-space') return { kind: 'number', number: Math.ceil(space.bytes / 1e11) / 10 };
      return { kind: 'number', number: count?.kind === 'count-drives' ? count.expected : (asks.least ?? 0) };
    }
    case 'copy':
      // Nobody knows yet what will be said: no copy is thought up, but where the plan does not go on without one.
      if (!does.some((one) => one.kind === 'arrange-copy' && one.isLast === true))
        return { kind: 'copy', none: { why: 'as planned' } };
      return {
        kind: 'copy',
        copy: { where: 'as planned', keeps: 'versions', offSite: true, ranOn: dayOf(at) },
        fetched: { file: 'one file', on: dayOf(at), opened: true },
      };
    case 'scans':
      return {
        kind: 'scans',
        scans: asks.bays.map(({ bay, expects }) => {
          const carried = does.find((one) => one.kind === 'carry-in' && one.bay === bay);
          const planned = carried?.kind === 'carry-in' ? carried.serial : `${NOT_READ_YET}${bay}`;
          const fit = does.find((one) => one.kind === 'fit-drive' && one.drive.bay === bay);
          return {
            bay,
            serial: expects ?? planned,
            ...(fit?.kind === 'fit-drive' ? { drive: sizeFacts(fit.drive) } : {}),
          };
        }),
      };
    case 'choice':
      return { kind: 'choice', choice: asks.options[0] ?? '' };
    case 'speed':
      return { kind: 'speed', read: 100, write: 100 };
    case 'page':
      return { kind: 'page', says: 'done', again: true };
    case 'stock':
      // Whatever there is: a first list is as it is, a second one was looked through.
      return { kind: 'stock', lines: [], seen: true };
    case 'drives': {
      const layOut = does.find((one) => one.kind === 'lay-out');
      if (layOut?.kind !== 'lay-out') return { kind: 'drives', drives: [] };
      return {
        kind: 'drives',
        drives: layOut.bays.map((bay) => ({ serial: `${NOT_READ_YET}${bay}`, ...layOut.drive, looks: 'new' })),
      };
    }
    case 'fates':
      return { kind: 'fates', fates: asks.serials.map((serial) => ({ serial, goes: { kind: 'stays' } })) };
    case 'items':
      return { kind: 'items', missing: [] };
    case 'picture':
      return { kind: 'picture', paper: '00000000-0000-0000-0000-000000000000' };
  }
}
