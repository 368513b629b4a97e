import type { FromSchema } from 'json-schema-to-ts';
import { attempt } from '../core/plan/attempt';
import { isSameSerial, type Interlock } from '../core/plan/interlock';
import { nextStep, waitsFor } from '../core/plan/progress';
import type { PlanStep, StepEvidence } from '../core/plan/plan';
import { apply } from '../core/unit/apply';
import type { UnitEvent } from '../core/unit/event';
import type { PlanRun } from '../core/unit/state';
import { own } from '../core/value/own';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import type { Override } from '../schemas/plan';
import { backSchema, endSchema, pauseSchema, sheetSchema, skipSchema, stepSchema } from '../schemas/record';
import { lifeOf } from '../store/driveLives';
import { papersOf } from '../store/papers';
import { eventsOf, withdrawnEntries, type StoredUnit } from '../store/units';
import type { App } from './app';
import { driveFacts } from './driveFacts';
import { momentOf } from './moment';
import { operationTaking, type Asked, type Operation } from './operation';
import { append, type Entry } from './unitLedger';
import { findUnit, shown } from './unitOperations';
import { mayAct } from './viewer';

/** What is done in a plan that is under way. */

interface InRun {
  readonly unit: StoredUnit;
  readonly run: PlanRun;
}

/** The unit and the plan an address names. */
async function findRun({ app, params }: Pick<Asked<unknown>, 'app' | 'params'>): Promise<InRun | Refusal> {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) return unit;
  const run = own(unit.state.plans, params['plan'] ?? '');
  return run ? { unit, run } : refusal('not-found', 'There is no such plan.');
}

function findStep({ plan }: PlanRun, id: string): PlanStep | Refusal {
  return plan.steps.find((step) => step.id === id) ?? refusal('step-unknown', 'This plan has no such step.', '/step');
}

/** An operation on a plan under way: what it adds to the ledger, appended with the version its author looked at. */
function inPlan<B extends { readonly expectedVersion: number }>(
  schema: object,
  path: string,
  summary: string,
  entriesOf: (asked: Asked<B>, found: InRun) => Promise<readonly Entry[] | Refusal> | readonly Entry[] | Refusal,
): Operation {
  return operationTaking<B>(schema, {
    method: 'POST',
    path: `/units/{id}/plans/{plan}/${path}`,
    summary,
    needs: 'keeper',
    scope: 'write',
    status: 201,
    run: async (asked) => {
      const { app, viewer, body } = asked;
      const found = await findRun(asked);
      if (isRefusal(found)) return found;
      const { unit, run } = found;
      const appended = (entries: readonly Entry[]) => append(app.db, unit.id, body.expectedVersion, entries, viewer.name);
      // Somebody was first: said in the words of the ledger, before anything is judged by a state nobody saw.
      if (body.expectedVersion !== unit.version) {
        const conflict = await appended([]);
        if (isRefusal(conflict)) return conflict;
      }
      const entries = await entriesOf(asked, found);
      if (isRefusal(entries)) return entries;
      const result = await appended(entries);
      return isRefusal(result) ? result : { ...shown(result.unit), hazards: result.hazards, next: nextOf(result.unit, run.id) };
    },
  });
}

function nextOf({ state }: StoredUnit, plan: string): string | null {
  const run = own(state.plans, plan);
  return run ? (nextStep(run)?.id ?? null) : null;
}

export function at(events: readonly UnitEvent[], happenedAt: string): Entry[] {
  return events.map((event) => ({ event, happenedAt }));
}

interface Sent {
  readonly step: string;
  readonly evidence: StepEvidence;
  readonly happenedAt: string;
  readonly override?: Override;
}

/** A step with what it causes, tried on a state; or why it may not be done, and what stops it. */
async function tryStep(
  app: App,
  unit: StoredUnit,
  plan: string,
  { step: id, evidence, happenedAt, override }: Sent,
  isOwner: boolean,
): Promise<Tried | Refusal> {
  const run = own(unit.state.plans, plan) as PlanRun;
  const step = findStep(run, id);
  if (isRefusal(step)) return step;
  if (own(run.done, step.id)) return refusal('step-done', 'This step is done already.', '/step');
  const waiting = waitsFor(run, step);
  if (waiting.length > 0) return refusal('not-yet', `First: ${waiting.map(({ title }) => title).join('; ')}.`, '/step');
  if (evidence.kind === 'picture' && !(await papersOf(app.db, { unit: unit.id })).some(({ id: paper }) => paper === evidence.paper))
    return refusal('paper-unknown', 'This picture is not among the papers of the unit.', '/evidence/paper');
  const life = evidence.kind === 'serial' && step.does.some(({ kind }) => kind === 'fit-drive') ? await lifeOf(app.db, evidence.serial) : undefined;
  const seen = attempt(unit.state, step, evidence, happenedAt, life && driveFacts(life.life));
  if (isRefusal(seen)) return seen;
  const { interlocks, events: causes } = seen;
  if (interlocks.length > 0) {
    if (override === undefined) return { kind: 'stopped', interlocks, step };
    const wrong = whyNotOverride(interlocks, override, isOwner);
    if (wrong) return wrong;
  }
  const done: UnitEvent = { kind: 'step-done', plan, step: step.id, evidence, causes: causes.length, ...(override === undefined ? {} : { override }) };
  return { kind: 'may', events: [done, ...causes] };
}

type Tried =
  | { readonly kind: 'may'; readonly events: readonly UnitEvent[] }
  | { readonly kind: 'stopped'; readonly interlocks: readonly Interlock[]; readonly step: PlanStep };

function whyNotOverride(interlocks: readonly Interlock[], { serial }: Override, isOwner: boolean): Refusal | undefined {
  const absolute = interlocks.find(({ mayOverride }) => !mayOverride);
  if (absolute) return refusal('no-override', `${absolute.sentence} Nobody goes on here.`, '/override');
  if (!isOwner) return refusal('owner-only', 'Only an owner goes on where the record says stop. Hand over by this address.', '/override');
  const other = interlocks.find((one) => !isSameSerial(one.serial, serial));
  if (other) return refusal('override-serial', `Type the serial it is about: ${other.serial}.`, '/override/serial');
  return undefined;
}

/** What stops a step, as an answer; the ledger remembers that it was tried. */
async function refuse(
  app: App,
  unit: StoredUnit,
  plan: string,
  { interlocks, step }: Extract<Tried, { kind: 'stopped' }>,
  evidence: StepEvidence,
  by: string,
  now: Date,
): Promise<Refusal> {
  const [first] = interlocks as readonly [Interlock, ...Interlock[]];
  const sentence = interlocks.map((one) => one.sentence).join(' ');
  const serial = evidence.kind === 'serial' ? evidence.serial : first.serial;
  const event: UnitEvent = {
    kind: 'step-refused',
    plan,
    step: step.id,
    codes: interlocks.map(({ code }) => code),
    sentence: sentence.slice(0, 1000),
    ...(serial === '' ? {} : { serial }),
  };
  const kept = await append(app.db, unit.id, unit.version, at([event], now.toISOString()), by);
  const version = isRefusal(kept) ? unit.version : kept.unit.version;
  return { ...refusal(first.code, `${sentence} ${first.back}`, '/evidence'), more: { interlocks, version } };
}

const doStep = inPlan<FromSchema<typeof stepSchema>>(
  stepSchema,
  'steps',
  'Do a step, with the evidence it asks for; what it changes is recorded with it, or neither is. A step that must not be done is refused with what would be lost and the way back, and that is recorded',
  async ({ app, viewer, body, now }, { unit, run }) => {
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const sent = { ...body, happenedAt } as Sent;
    const seen = await tryStep(app, unit, run.id, sent, mayAct(viewer, 'owner'));
    if (isRefusal(seen)) return seen;
    return seen.kind === 'stopped' ? refuse(app, unit, run.id, seen, sent.evidence, viewer.name, now) : at(seen.events, happenedAt);
  },
);

const enterSheet = inPlan<FromSchema<typeof sheetSchema>>(
  sheetSchema,
  'sheet',
  'Enter a sheet filled in by hand: steps in order, each with its time; all of them or none',
  async ({ app, body, now }, { unit: before, run }) => {
    let unit = before;
    const entries: Entry[] = [];
    for (const [i, row] of body.steps.entries()) {
      const here = (no: Refusal): Refusal => ({ ...no, pointer: `/steps/${String(i)}${no.pointer ?? ''}` });
      const given = momentOf(row.happenedAt, now);
      if (isRefusal(given)) return here(given);
      const happenedAt = inItsMinute(given, latestOf(own(unit.state.plans, run.id) as PlanRun));
      const above = entries.at(-1);
      if (above && happenedAt < above.happenedAt) return here(refusal('out-of-order', 'It lies before the step above it.', '/happenedAt'));
      const seen = await tryStep(app, unit, run.id, { step: row.step, evidence: row.evidence as StepEvidence, happenedAt }, false);
      if (isRefusal(seen)) return here(seen);
      if (seen.kind === 'stopped') {
        const [first] = seen.interlocks as readonly [Interlock, ...Interlock[]];
        return here({ ...refusal(first.code, `${first.sentence} ${first.back}`, '/evidence'), more: { interlocks: seen.interlocks } });
      }
      for (const event of seen.events) {
        const state = apply(unit.state, event, happenedAt);
        if (isRefusal(state)) return here(state);
        unit = { ...unit, state };
        entries.push({ event, happenedAt });
      }
    }
    return entries;
  },
);

/** When the plan was last touched. */
function latestOf({ startedAt, done }: PlanRun): string {
  return Object.values(done).reduce((latest, { at: time }) => (time > latest ? time : latest), startedAt);
}

/** A sheet knows the minute, not the second: within one minute, what is written later happened later. */
function inItsMinute(given: string, before: string): string {
  const earlier = Date.parse(before) - Date.parse(given);
  return earlier > 0 && earlier < 60_000 ? before : given;
}

const pause = inPlan<FromSchema<typeof pauseSchema>>(
  pauseSchema,
  'pause',
  'Let a plan rest, with words for whoever goes on; the next step done ends the rest',
  ({ body, now }, { run }) => at([{ kind: 'plan-paused', plan: run.id, note: body.note }], now.toISOString()),
);

const skipStep = inPlan<FromSchema<typeof skipSchema>>(
  skipSchema,
  'skips',
  'Leave a step out, with the reason; only steps that may be',
  ({ body, now }, { run }) => {
    const step = findStep(run, body.step);
    if (isRefusal(step)) return step;
    if (step.maySkip !== true) return refusal('not-skippable', 'This step is not left out: what follows rests on it.', '/step');
    return at([{ kind: 'step-skipped', plan: run.id, step: step.id, reason: body.reason }], now.toISOString());
  },
);

const goBack = inPlan<FromSchema<typeof backSchema>>(
  backSchema,
  'back',
  'Take a step back: it and what it changed are withdrawn from the record',
  async ({ app, body, now }, { unit, run }) => {
    const rests = run.plan.steps.filter(({ id, after }) => after.includes(body.step) && own(run.done, id));
    if (rests.length > 0) return refusal('rests-on-it', `“${rests[0]?.title ?? ''}” rests on this step: take that back first.`, '/step');
    const [ledger, withdrawn] = [await eventsOf(app.db, unit.id), await withdrawnEntries(app.db, unit.id)];
    const entry = ledger.findLast(
      ({ seq, event }) =>
        !withdrawn.has(seq) && (event.kind === 'step-done' || event.kind === 'step-skipped') && event.plan === run.id && event.step === body.step,
    );
    if (!entry) return refusal('step-not-done', 'This step has not been done.', '/step');
    const causes = entry.event.kind === 'step-done' ? entry.event.causes : 0;
    const reason = 'step taken back';
    const events = Array.from({ length: causes + 1 }, (_, i): UnitEvent => ({ kind: 'statement-withdrawn', seq: entry.seq + causes - i, reason })).filter(
      (event) => event.kind === 'statement-withdrawn' && !withdrawn.has(event.seq),
    );
    return at(events, now.toISOString());
  },
);

const end = inPlan<FromSchema<typeof endSchema>>(endSchema, 'end', 'Finish a plan whose steps are done, or stop one half-way', ({ body, now }, { run }) => {
  const open = run.plan.steps.filter(({ id }) => !own(run.done, id));
  if (body.how === 'finished' && open.length > 0) return refusal('steps-open', `Still to do: ${open.map(({ title }) => title).join('; ')}.`, '/how');
  const note = body.note === undefined || body.note === '' ? {} : { note: body.note };
  return at([{ kind: 'plan-ended', plan: run.id, how: body.how, ...note }], now.toISOString());
});

export const steps = [doStep, enterSheet, skipStep, goBack, pause, end];
