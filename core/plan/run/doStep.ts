import type { Override } from '../../../schemas/plan';
import { whichSerial } from '../../drive/whichSerial';
import { waitsFor } from '../../planRun/progress';
import type { PlanRun } from '../../planRun/planRun';
import type { UnitEvent } from '../../unit/event';
import type { UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { ActEntry } from '../../world/act';
import { unitLedger } from '../../world/ledger';
import { placed } from '../../world/record';
import { isLateFor, ledgerIn, unitIn, worldAt, type World } from '../../world/world';
import { attempt } from '../engine/attempt';
import type { Units } from '../engine/carrying';
import { isHeard, whyFrozen } from '../engine/frozen';
import { eventsOfPage } from '../engine/pageSays';
import { interlocksOfHazards, type Interlock } from '../engine/interlock';
import { serialMeant, type Knows } from '../engine/knownDrive';
import { entriesOfFates } from '../engine/fates';
import { knowsWith } from '../engine/laidOut';
import { partOf, unitsOfStep } from '../engine/unitsOfStep';
import { eventsOfWrongOut } from '../engine/wrongOut';
import type { PlanStep, StepEvidence } from '../plan';
import { atUnits, inPlan, made, runOf, stepOf, type Made } from './runOf';

/** A step as it was sent. */
export interface StepSent {
  readonly plan: string;
  readonly step: string;
  readonly evidence: StepEvidence;
  /** When it was done (ISO 8601, UTC): it is judged on the state of that moment, and on everything since. */
  readonly happenedAt: string;
  readonly override?: Override;
  readonly isOwner: boolean;
  readonly knows?: Knows;
}

/** A step that must not be done: why, and what is written of it having been tried. */
export interface StepStopped {
  readonly kind: 'stopped';
  readonly interlocks: readonly Interlock[];
  readonly entries: readonly ActEntry[];
}

/**
 * Does a step of a plan: what it changes, with the evidence; or why it may not be done.
 *
 * @param world the plan, its units, and the drives it may move; with histories where the step is late
 */
export function doStep(world: World, sent: StepSent): Made | StepStopped | Refusal {
  const run = runOf(world, sent.plan);
  if (isRefusal(run)) return run;
  const step = stepOf(run, sent.step);
  if (isRefusal(step)) return step;
  if (run.ended) return refusal('plan-ended', `“${run.plan.title}” has ended.`, '/plan');
  if (entryOf(run.done, step.id)) return refusal('step-done', 'This step is done already.', '/step');
  const waiting = waitsFor(run, step);
  if (waiting.length > 0) return refusal('not-yet', `First: ${waiting.map(({ title }) => title).join('; ')}.`, '/step');
  const early =
    step.after.find((id) => (entryOf(run.done, id)?.at ?? '') > sent.happenedAt) ??
    (sent.happenedAt < run.startedAt ? step.id : undefined);
  if (early !== undefined) return refusal('out-of-order', 'That is before what it comes after.', '/happenedAt');
  const kept = keptAtUnits(world, run, step, sent);
  if (kept) return kept;
  const tried = tryAtUnits(world, run, step, { ...sent, knows: knowsWith(run.done, sent.knows) });
  if (isRefusal(tried)) return tried;
  const { changes, interlocks } = tried;
  const { evidence, override } = sent;
  if (interlocks.length > 0) {
    if (override === undefined) return stopped(sent.plan, run, step, evidence, interlocks);
    const wrong = whyNotOverride(interlocks, override, sent.isOwner);
    if (wrong) return wrong;
  }
  const done = inPlan(sent.plan, {
    kind: 'step-done',
    step: step.id,
    evidence,
    ...(override === undefined ? {} : { override }),
  });
  const here = { kind: 'plan-step', plan: sent.plan, step: step.id, title: step.title } as const;
  const entries = [
    done,
    ...atUnits(
      run,
      override === undefined ? { ...here, how: 'done' } : { ...here, how: 'overridden', note: override.reason },
    ),
    ...changes,
    // What is written in the ledgers of drives that left.
    ...entriesOfFates(evidence),
  ];
  return { ...made(entries), fills: fillsOf(world, run, step) };
}

/** What was copied in is in use now: at least that much. Said again, as after a step back, it is not more. */
function fillsOf(world: World, { units }: PlanRun, { does }: PlanStep): NonNullable<Made['fills']> {
  return does.flatMap((one) =>
    one.kind === 'finish-job' && one.bytes !== undefined
      ? [
          {
            unit: one.unit ?? (units[0] as string),
            pool: one.pool,
            bytes: Math.max(world.used?.[one.pool] ?? 0, one.bytes),
          },
        ]
      : [],
  );
}

/** A page that does not say done, or another drive that was out: the answer is kept, and the step is not done. */
function keptAtUnits(
  world: World,
  { units }: PlanRun,
  step: PlanStep,
  { plan, evidence, happenedAt }: StepSent,
): Made | Refusal | undefined {
  const then = worldAt(world, happenedAt);
  if (evidence.kind === 'wrong-out') {
    const { says, note } = evidence;
    if (!step.does.some(({ kind }) => kind === 'pull-drive'))
      return refusal('evidence-kind', 'No drive is pulled at this step.', '/evidence/kind');
    const at = units.flatMap((one) => unitIn(then, one) ?? []);
    const here =
      units.find((_, i) => entryOf(at[i]?.drives ?? {}, serialMeant(at[i] as UnitState, evidence.serial))) ??
      (units[0] as string);
    const unit = unitIn(then, here);
    if (!unit) return refusal('not-registered', 'The unit was not on the shelf then.', '/happenedAt');
    const events = eventsOfWrongOut(unit, evidence);
    if (isRefusal(events)) return events;
    const serial = serialMeant(unit, evidence.serial);
    const said = inPlan(plan, {
      kind: 'wrong-drive-out',
      step: step.id,
      serial,
      says,
      ...(note === undefined ? {} : { note }),
    });
    return made([said, ...events.map((event) => ({ ledger: unitLedger(here), event }))]);
  }
  if (evidence.kind !== 'page') return undefined;
  const said = units.flatMap((id): ActEntry[] => {
    const unit = unitIn(then, id);
    const events = unit && eventsOfPage(unit, partOf(step, id, units[0] as string), evidence);
    return (events ?? []).map((event) => ({ ledger: unitLedger(id), event }));
  });
  const { says, note } = evidence;
  return said.length === 0
    ? undefined
    : made([
        inPlan(plan, { kind: 'page-said', step: step.id, says, ...(note === undefined ? {} : { note }) }),
        ...said,
      ]);
}

interface Tried {
  readonly changes: readonly ActEntry[];
  readonly interlocks: readonly Interlock[];
}

/** Each unit's part of the step, tried on that unit as it was at the moment, and then along everything since. */
function tryAtUnits(
  world: World,
  { units, plan }: PlanRun,
  step: PlanStep,
  { evidence, happenedAt, knows }: StepSent,
): Tried | Refusal {
  const then = worldAt(world, happenedAt);
  const changes: ActEntry[] = [];
  const interlocks: Interlock[] = [];
  const at = Object.fromEntries(units.flatMap((id) => [[id, unitIn(then, id)] as const])) as Units;
  const acts = unitsOfStep(step, units);
  for (const id of units) {
    const unit = unitIn(then, id);
    if (!unit) return refusal('not-registered', 'The unit was not on the shelf then.', '/happenedAt');
    const freezes = whyFrozen(unit, plan);
    if (freezes?.code === 'pool-lost') return { changes: [], interlocks: [freezes] };
    if (!acts.includes(id)) {
      if (freezes && !isHeard(step)) interlocks.push(freezes);
      continue;
    }
    const part = partOf(step, id, units[0] as string);
    const seen = attempt(unit, part, evidence, happenedAt, { knows, used: world.used, units: at });
    if (isRefusal(seen)) return seen;
    changes.push(...seen.events.map((event) => ({ ledger: unitLedger(id), event })));
    // What the step itself would lose says more.
    interlocks.push(...(seen.interlocks.length === 0 && freezes && !isHeard(step) ? [freezes] : seen.interlocks));
  }
  if (interlocks.length === 0 && changes.length > 0) {
    const along = sinceThen(world, changes, happenedAt);
    if (isRefusal(along)) return along;
    interlocks.push(...along);
  }
  // What two units would lose alike is said once.
  const said = new Set<string>();
  return { changes, interlocks: interlocks.filter(({ sentence }) => !said.has(sentence) && said.add(sentence)) };
}

/** For what lies in the past: what it would have done to the history that follows. */
function sinceThen(world: World, changes: readonly ActEntry[], happenedAt: string): Interlock[] | Refusal {
  const interlocks: Interlock[] = [];
  for (const id of new Set(changes.map(({ ledger }) => ledger.id))) {
    const ledger = ledgerIn(world, unitLedger(id));
    if (!isLateFor(ledger, happenedAt)) continue;
    const act = 'tried';
    const fresh = changesAt(changes, id).map((event, i) => ({ seq: ledger.version + 1 + i, happenedAt, event, act }));
    const seen = placed(ledger, fresh, { id: act, happenedAt });
    if (isRefusal(seen)) return seen;
    interlocks.push(...interlocksOfHazards(ledger.state as UnitState, seen.hazards));
  }
  return interlocks;
}

function stopped(
  plan: string,
  run: PlanRun,
  step: PlanStep,
  evidence: StepEvidence,
  interlocks: readonly Interlock[],
): StepStopped {
  const [first] = interlocks as readonly [Interlock, ...Interlock[]];
  const sentence = interlocks
    .map((one) => one.sentence)
    .join(' ')
    .slice(0, 1000);
  const serial = evidence.kind === 'serial' ? evidence.serial : first.serial;
  const codes = interlocks.map(({ code }) => code).slice(0, 10);
  return {
    kind: 'stopped',
    interlocks,
    entries: [
      inPlan(plan, { kind: 'step-refused', step: step.id, codes, sentence, ...(serial === '' ? {} : { serial }) }),
      ...atUnits(run, { kind: 'plan-step', plan, step: step.id, title: step.title, how: 'refused', note: sentence }),
    ],
  };
}

function whyNotOverride(interlocks: readonly Interlock[], { serial }: Override, isOwner: boolean): Refusal | undefined {
  const absolute = interlocks.find(({ mayOverride }) => !mayOverride);
  if (absolute) return refusal('no-override', `${absolute.sentence} Nobody goes on here.`, '/override');
  if (!isOwner)
    return refusal(
      'owner-only',
      'Only an owner goes on where the record says stop. Hand over by this address.',
      '/override',
    );
  const other = interlocks.find(
    (one) =>
      whichSerial(
        serial,
        interlocks.map((lock) => lock.serial),
      ) !== one.serial,
  );
  if (other) return refusal('override-serial', `Type the serial it is about: ${other.serial}.`, '/override/serial');
  return undefined;
}

/** The unit's events among the entries of a command, for a browser that works without a network. */
export function changesAt(entries: readonly ActEntry[], unit: string): UnitEvent[] {
  return entries.flatMap(({ ledger, event }) =>
    ledger.kind === 'unit' && ledger.id === unit ? [event as UnitEvent] : [],
  );
}
