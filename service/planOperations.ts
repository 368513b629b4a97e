import type { FromSchema } from 'json-schema-to-ts';
import type { DriveLife } from '../core/driveLife/life';
import { attempt } from '../core/plan/attempt';
import { dryRun } from '../core/plan/dryRun';
import type { NewDrive } from '../core/plan/handsOnDrive';
import { isSameSerial, type Interlock } from '../core/plan/interlock';
import { makePlan, type WishOf } from '../core/plan/makePlan';
import { nextStep, waitsFor } from '../core/plan/progress';
import type { PlanBody, PlanStep, StepEvidence } from '../core/plan/plan';
import { planRisk, type PlanRisk } from '../core/plan/timeline';
import { rescueOf } from '../core/rescue/rescueOf';
import { apply } from '../core/unit/apply';
import type { UnitEvent } from '../core/unit/event';
import { poolOfDrive, type PlanRun } from '../core/unit/state';
import { own } from '../core/value/own';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import { JOBS, type Override, type PlanJob } from '../schemas/plan';
import { backSchema, endSchema, pauseSchema, planAskedSchema, planStartSchema, sheetSchema, skipSchema, stepSchema } from '../schemas/record';
import { lifeOf } from '../store/driveLives';
import { papersOf } from '../store/papers';
import { usedOf } from '../store/readings';
import { partsOfUnits } from '../store/shelf';
import { testedModels } from '../store/testedModels';
import { eventsOf, withdrawnEntries, type StoredUnit } from '../store/units';
import type { App } from './app';
import { momentOf } from './moment';
import { operation, operationTaking, type Asked } from './operation';
import { append, type Entry } from './unitLedger';
import { findUnit, shown } from './unitOperations';
import { mayAct } from './viewer';

/** A wish as it was sent: the schema of its job has checked it. */
type Wish = WishOf[PlanJob];

/** The plan for a wish, with what is on record: tested drives, how full the pool is, what the drawers say of the drive. */
async function planned(app: App, unit: StoredUnit, job: PlanJob, wish: Wish): Promise<PlanBody | Refusal> {
  const verdicts = new Map((await testedModels(app.db)).map(({ model, verdict }) => [model.toLowerCase(), verdict]));
  const tested = (model: string): 'works' | 'avoid' | undefined => verdicts.get(model.toLowerCase());
  const events = job === 'rescue' ? await eventsOf(app.db, unit.id) : [];
  const known = 'drive' in wish && wish.drive.serial !== undefined ? await lifeOf(app.db, wish.drive.serial) : undefined;
  const drive = 'drive' in wish ? { ...wish.drive, ...(known ? factsOf(known.life) : {}) } : undefined;
  const share = 'usedShare' in wish ? undefined : await usedShareOf(app, unit, wish);
  const whole = { ...wish, tested, ...(drive === undefined ? {} : { drive }), ...(share === undefined ? {} : { usedShare: share }) } as Wish;
  const plan = makePlan(job, unit.state, whole, events);
  return isRefusal(plan) ? { ...plan, pointer: `/wish${plan.pointer ?? ''}` } : plan;
}

/** What a drive's own ledger knows of it, as a plan needs it. */
function factsOf({ drive: { bytes, basis, label, model, media } }: DriveLife): Partial<NewDrive> & Pick<NewDrive, 'bytes' | 'basis'> {
  return { bytes, basis, ...(label === undefined ? {} : { label }), ...(model === undefined ? {} : { model }), ...(media === undefined ? {} : { media }) };
}

async function usedShareOf(app: App, { id, state }: StoredUnit, wish: Wish): Promise<number | undefined> {
  const pool = 'pool' in wish && typeof wish.pool === 'string' ? own(state.pools, wish.pool) : 'serial' in wish ? poolOfDrive(state, wish.serial) : undefined;
  const used = pool && (await usedOf(app.db, id))[pool.id];
  return pool && used !== undefined ? Math.min(1, used / pool.shownBytes) : undefined;
}

/** A dry run as it goes out: what every step would do, without the states in between, and what that risks. */
function shownRun({ state }: StoredUnit, plan: PlanBody, now: Date): { readonly dryRun: object[]; readonly risks: readonly PlanRisk[] } {
  const run = dryRun(state, plan, now.toISOString());
  const risks = Object.keys(state.pools).flatMap((pool) => planRisk(state, run, pool, now.toISOString()) ?? []);
  return {
    dryRun: run.map((step) => {
      if (step.kind === 'dry-stop') return step;
      const { after: _state, ...rest } = step;
      return rest;
    }),
    risks,
  };
}

const SUMMARIES: Readonly<Record<PlanJob, string>> = {
  commission: 'The plan that takes a unit from its box to its first backup',
  replace: 'The plan to replace one drive, in its bay or through a free one',
  'replace-all': 'The plan to replace every member by a larger drive, one at a time',
  'spare-in': 'The plan when a spare takes over and is replaced itself',
  'came-back': 'The plan for a drive that dropped out and is there again',
  rescue: 'The plan for a pool that has lost more than it may, or a unit that offers only to erase',
};

const tries = JOBS.map((job) =>
  operationTaking<{ readonly unit: string; readonly wish: Wish }>(planAskedSchema(job), {
    method: 'POST',
    path: `/plans/${job}`,
    summary: `${SUMMARIES[job]}, tried without recording anything`,
    needs: 'reader',
    scope: 'read',
    run: async ({ app, body, now }) => {
      const unit = await findUnit(app, body.unit);
      if (isRefusal(unit)) return { ...unit, pointer: '/unit' };
      const plan = await planned(app, unit, job, body.wish);
      return isRefusal(plan) ? plan : { plan, ...shownRun(unit, plan, now) };
    },
  }),
);

const start = operationTaking<{ readonly expectedVersion: number; readonly job: PlanJob; readonly wish: Wish }>(planStartSchema, {
  method: 'POST',
  path: '/units/{id}/plans',
  summary: 'Begin a plan',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const plan = await planned(app, unit, body.job, body.wish);
    if (isRefusal(plan)) return plan;
    const id = `${plan.job}-${String(Object.keys(unit.state.plans).length + 1)}`;
    const events: UnitEvent[] = [{ kind: 'plan-started', plan: id, body: plan }];
    const result = await append(app.db, unit.id, body.expectedVersion, at(events, now.toISOString()), viewer.name);
    return isRefusal(result) ? result : { plan: id, ...shown(result.unit) };
  },
});

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
  const seen = attempt(unit.state, step, evidence, happenedAt, life && factsOf(life.life));
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

const doStep = operationTaking<FromSchema<typeof stepSchema>>(stepSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/steps',
  summary:
    'Do a step, with the evidence it asks for; what it changes is recorded with it, or neither is. A step that must not be done is refused with what would be lost and the way back, and that is recorded',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    const { unit, run } = found;
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const sent = { ...body, happenedAt } as Sent;
    if (body.expectedVersion !== unit.version) {
      // In the words of the ledger: who was first, and with what.
      const conflict = await append(app.db, unit.id, body.expectedVersion, [], viewer.name);
      if (isRefusal(conflict)) return conflict;
    }
    const seen = await tryStep(app, unit, run.id, sent, mayAct(viewer, 'owner'));
    if (isRefusal(seen)) return seen;
    if (seen.kind === 'stopped') return refuse(app, unit, run.id, seen, sent.evidence, viewer.name, now);
    const result = await append(app.db, unit.id, body.expectedVersion, at(seen.events, happenedAt), viewer.name);
    return isRefusal(result) ? result : { ...shown(result.unit), hazards: result.hazards, next: nextOf(result.unit, run.id) };
  },
});

const enterSheet = operationTaking<FromSchema<typeof sheetSchema>>(sheetSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/sheet',
  summary: 'Enter a sheet filled in by hand: steps in order, each with its time; all of them or none',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    let { unit } = found;
    const entries: Entry[] = [];
    for (const [i, row] of body.steps.entries()) {
      const here = (no: Refusal): Refusal => ({ ...no, pointer: `/steps/${String(i)}${no.pointer ?? ''}` });
      const given = momentOf(row.happenedAt, now);
      if (isRefusal(given)) return here(given);
      const happenedAt = inItsMinute(given, latestOf(own(unit.state.plans, found.run.id) as PlanRun));
      const before = entries.at(-1);
      if (before && happenedAt < before.happenedAt) return here(refusal('out-of-order', 'It lies before the step above it.', '/happenedAt'));
      const seen = await tryStep(app, unit, found.run.id, { step: row.step, evidence: row.evidence as StepEvidence, happenedAt }, false);
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
    const result = await append(app.db, unit.id, body.expectedVersion, entries, viewer.name);
    return isRefusal(result) ? result : { ...shown(result.unit), hazards: result.hazards, next: nextOf(result.unit, found.run.id) };
  },
});

/** When the plan was last touched. */
function latestOf({ startedAt, done }: PlanRun): string {
  return Object.values(done).reduce((latest, { at: time }) => (time > latest ? time : latest), startedAt);
}

/** A sheet knows the minute, not the second: within one minute, what is written later happened later. */
function inItsMinute(given: string, before: string): string {
  const earlier = Date.parse(before) - Date.parse(given);
  return earlier > 0 && earlier < 60_000 ? before : given;
}

const pause = operationTaking<FromSchema<typeof pauseSchema>>(pauseSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/pause',
  summary: 'Let a plan rest, with words for whoever goes on; the next step done ends the rest',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    const events: UnitEvent[] = [{ kind: 'plan-paused', plan: found.run.id, note: body.note }];
    const result = await append(app.db, found.unit.id, body.expectedVersion, at(events, now.toISOString()), viewer.name);
    return isRefusal(result) ? result : shown(result.unit);
  },
});

const rescueDesk = operation({
  method: 'GET',
  path: '/units/{id}/rescue',
  summary: 'The rescue desk: what not to touch, which drives are kept and in what order they are tried, by the ledger',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params }) => {
    const unit = await findUnit(app, params['id']);
    return isRefusal(unit) ? unit : rescueOf(unit.state, await eventsOf(app.db, unit.id));
  },
});

const skipStep = operationTaking<FromSchema<typeof skipSchema>>(skipSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/skips',
  summary: 'Leave a step out, with the reason; only steps that may be',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    const { unit, run } = found;
    const step = findStep(run, body.step);
    if (isRefusal(step)) return step;
    if (step.maySkip !== true) return refusal('not-skippable', 'This step is not left out: what follows rests on it.', '/step');
    const events: UnitEvent[] = [{ kind: 'step-skipped', plan: run.id, step: step.id, reason: body.reason }];
    const result = await append(app.db, unit.id, body.expectedVersion, at(events, now.toISOString()), viewer.name);
    return isRefusal(result) ? result : { ...shown(result.unit), next: nextOf(result.unit, run.id) };
  },
});

const goBack = operationTaking<FromSchema<typeof backSchema>>(backSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/back',
  summary: 'Take a step back: it and what it changed are withdrawn from the record',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    const { unit, run } = found;
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
    const result = await append(app.db, unit.id, body.expectedVersion, at(events, now.toISOString()), viewer.name);
    if (isRefusal(result)) return { ...result, sentence: `It cannot be taken back now: ${result.sentence}` };
    return { ...shown(result.unit), next: nextOf(result.unit, run.id) };
  },
});

const end = operationTaking<FromSchema<typeof endSchema>>(endSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/end',
  summary: 'Finish a plan whose steps are done, or stop one half-way',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    const { unit, run } = found;
    const open = run.plan.steps.filter(({ id }) => !own(run.done, id));
    if (body.how === 'finished' && open.length > 0) return refusal('steps-open', `Still to do: ${open.map(({ title }) => title).join('; ')}.`, '/how');
    const events: UnitEvent[] = [
      { kind: 'plan-ended', plan: run.id, how: body.how, ...(body.note === undefined || body.note === '' ? {} : { note: body.note }) },
    ];
    const result = await append(app.db, unit.id, body.expectedVersion, at(events, now.toISOString()), viewer.name);
    return isRefusal(result) ? result : shown(result.unit);
  },
});

function nextOf({ state }: StoredUnit, plan: string): string | null {
  const run = own(state.plans, plan);
  return run ? (nextStep(run)?.id ?? null) : null;
}

function at(events: readonly UnitEvent[], happenedAt: string): Entry[] {
  return events.map((event) => ({ event, happenedAt }));
}

export interface ListedPlan {
  readonly unit: string;
  readonly unitName: string;
  readonly run: PlanRun;
}

/** Every plan, those under way first, then the newest. */
export async function readPlans(app: App): Promise<ListedPlan[]> {
  const units = await partsOfUnits(app.db, ['plans']);
  return units
    .flatMap(({ id, name, state }) => Object.values(state.plans).map((run): ListedPlan => ({ unit: id, unitName: name, run })))
    .sort((a, b) => Number(a.run.ended !== undefined) - Number(b.run.ended !== undefined) || (a.run.startedAt < b.run.startedAt ? 1 : -1));
}

const list = operation({
  method: 'GET',
  path: '/plans',
  summary: 'Every plan, those under way first',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ plans: await readPlans(app) }),
});

export const plans = [...tries, start, doStep, enterSheet, skipStep, goBack, pause, end, list, rescueDesk];
