import type { FromSchema } from 'json-schema-to-ts';
import { commissionPlan, type CommissionWish } from '../core/plan/commission';
import { dryRun } from '../core/plan/dryRun';
import { eventsOfStep } from '../core/plan/eventsOfStep';
import { nextStep, waitsFor } from '../core/plan/progress';
import type { PlanBody, PlanStep, StepEvidence } from '../core/plan/plan';
import type { UnitEvent } from '../core/unit/event';
import type { PlanRun } from '../core/unit/state';
import { own } from '../core/value/own';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import { backSchema, endSchema, planAskedSchema, planStartSchema, skipSchema, stepSchema } from '../schemas/record';
import { papersOf } from '../store/papers';
import { partsOfUnits } from '../store/shelf';
import { testedModels } from '../store/testedModels';
import { eventsOf, withdrawnEntries, type StoredUnit } from '../store/units';
import type { App } from './app';
import { momentOf } from './moment';
import { operation, operationTaking, type Asked } from './operation';
import { append, type Entry } from './unitLedger';
import { findUnit, shown } from './unitOperations';

type Wish = FromSchema<typeof planStartSchema>['wish'];

/** The plan for a wish, with the user's own list of tested drives. */
async function planned(app: App, unit: StoredUnit, wish: Wish): Promise<PlanBody | Refusal> {
  const verdicts = new Map((await testedModels(app.db)).map(({ model, verdict }) => [model.toLowerCase(), verdict]));
  const plan = commissionPlan(unit.state, { ...(wish as CommissionWish), tested: (model) => verdicts.get(model.toLowerCase()) });
  return isRefusal(plan) ? { ...plan, pointer: `/wish${plan.pointer ?? ''}` } : plan;
}

/** A dry run as it goes out: what every step would do, without the states in between. */
function shownRun(unit: StoredUnit, plan: PlanBody, now: Date): object[] {
  return dryRun(unit.state, plan, now.toISOString()).map((step) => {
    if (step.kind === 'dry-stop') return step;
    const { after: _state, ...rest } = step;
    return rest;
  });
}

const tryCommission = operationTaking<FromSchema<typeof planAskedSchema>>(planAskedSchema, {
  method: 'POST',
  path: '/plans/commission',
  summary: 'The plan that takes a unit from its box to its first backup, tried without recording anything',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, body, now }) => {
    const unit = await findUnit(app, body.unit);
    if (isRefusal(unit)) return { ...unit, pointer: '/unit' };
    const plan = await planned(app, unit, body.wish);
    return isRefusal(plan) ? plan : { plan, dryRun: shownRun(unit, plan, now) };
  },
});

const start = operationTaking<FromSchema<typeof planStartSchema>>(planStartSchema, {
  method: 'POST',
  path: '/units/{id}/plans',
  summary: 'Begin a plan',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const unit = await findUnit(app, params['id']);
    if (isRefusal(unit)) return unit;
    const plan = await planned(app, unit, body.wish);
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

const doStep = operationTaking<FromSchema<typeof stepSchema>>(stepSchema, {
  method: 'POST',
  path: '/units/{id}/plans/{plan}/steps',
  summary: 'Do a step, with the evidence it asks for; what it changes is recorded with it, or neither is',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body, now }) => {
    const found = await findRun({ app, params });
    if (isRefusal(found)) return found;
    const { unit, run } = found;
    const step = findStep(run, body.step);
    if (isRefusal(step)) return step;
    const waiting = waitsFor(run, step);
    if (waiting.length > 0) return refusal('not-yet', `First: ${waiting.map(({ title }) => title).join('; ')}.`, '/step');
    const happenedAt = momentOf(body.happenedAt, now);
    if (isRefusal(happenedAt)) return happenedAt;
    const evidence = body.evidence as StepEvidence;
    if (evidence.kind === 'picture' && !(await papersOf(app.db, { unit: unit.id })).some(({ id }) => id === evidence.paper))
      return refusal('paper-unknown', 'This picture is not among the papers of the unit.', '/evidence/paper');
    const causes = eventsOfStep(unit.state, step, evidence);
    if (isRefusal(causes)) return causes;
    const events: UnitEvent[] = [{ kind: 'step-done', plan: run.id, step: step.id, evidence, causes: causes.length }, ...causes];
    const result = await append(app.db, unit.id, body.expectedVersion, at(events, happenedAt), viewer.name);
    return isRefusal(result) ? result : { ...shown(result.unit), hazards: result.hazards, next: nextOf(result.unit, run.id) };
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

export const plans = [tryCommission, start, doStep, skipStep, goBack, end, list];
