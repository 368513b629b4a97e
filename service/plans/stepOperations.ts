import { isUuid } from '../../core/value/isUuid';
import { randomUUID } from 'node:crypto';
import type { FromSchema } from 'json-schema-to-ts';
import type { Interlock } from '../../core/plan/engine/interlock';
import { doStep, type StepStopped } from '../../core/plan/run/doStep';
import { endPlan, pausePlan } from '../../core/plan/run/endPlan';
import { skipStep, whyNotBack } from '../../core/plan/run/leaveStep';
import type { Made } from '../../core/plan/run/runOf';
import type { PlanRun } from '../../core/planRun/planRun';
import { nextStep } from '../../core/planRun/progress';
import type { StepEvidence } from '../../core/plan/plan';
import type { PlanEvent } from '../../core/planRun/applyToPlan';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { World } from '../../core/world/world';
import { planLedger, unitLedger } from '../../core/world/ledger';
import type { Override } from '../../schemas/plan';
import { backSchema, endSchema, pauseSchema, sheetSchema, skipSchema, stepSchema } from '../../schemas/record';
import { entriesOf, loadLedgers, takenBackActs } from '../../store/acts';
import type { Transaction } from '../../store/database';
import { papersOf } from '../../store/papers';
import { planById, type StoredPlan } from '../../store/plans';
import type { App } from '../app';
import { inTransaction } from '../ledgers/inTransaction';
import { expectsUnit } from '../ledgers/asked';
import { commandIn, type Stopped } from '../ledgers/command';
import type { Done } from '../ledgers/save';
import { takeBackActIn } from '../ledgers/takeBackAct';
import { momentOf } from '../door/moment';
import { about } from '../door/about';
import { operation, operationTaking, type Asked } from '../door/operation';
import { knownOf } from '../drives/knownOf';
import { findUnit } from '../units/findUnit';
import { recorded, type Heard, type ShownUnit } from '../units/unitOperations';
import { actorOf, mayAct } from '../access/viewer';
import { worldOf } from '../../core/world/world';

/** What is done in a plan that is under way. */

interface InRun {
  readonly unit: string;
  readonly plan: StoredPlan;
}

/** The unit and the plan an address names. */
export async function findRun(
  app: App,
  unitId: string | undefined,
  plan: string | undefined,
): Promise<InRun | Refusal> {
  const unit = await findUnit(app, unitId);
  if (isRefusal(unit)) return unit;
  const found = isUuid(plan) ? await planById(app.db, plan) : undefined;
  return found?.run.units.includes(unit.id) === true
    ? { unit: unit.id, plan: found }
    : refusal('not-found', 'There is no such plan.');
}

/** An operation about the plan of its path. */
const aboutRun = about(({ app, params }) => findRun(app, params['id'], params['plan']));

/** The answer to what was done in a plan: the unit as it is now, how far the plan is, and which step is next. */
export interface PlanRecorded extends Heard, Partial<ShownUnit> {
  readonly plan: string;
  readonly run?: PlanRun;
  /** The step that comes next; `null` when none is left. */
  readonly next?: string | null;
}

export function planAnswer(result: Done | Stopped, plan: string, unit: string): PlanRecorded | Refusal {
  if (result.kind === 'stopped') return stopped(result, unit);
  const now = result.units.find(({ id }) => id === unit);
  const run = result.plans.find(({ id }) => id === plan)?.run;
  return {
    ...(now ? recorded(result, now) : { act: result.act, hazards: result.hazards }),
    plan,
    ...(run ? { run, next: nextStep(run)?.id ?? null } : {}),
  };
}

/** What stops a step, as an answer; the ledger remembers that it was tried. */
function stopped({ interlocks, done }: Stopped, unit: string): Refusal {
  const version = done.units.find(({ id }) => id === unit)?.version;
  return { ...stopWords(interlocks), more: { interlocks, version } };
}

function stopWords(interlocks: readonly Interlock[]): Refusal {
  const [first] = interlocks as readonly [Interlock, ...Interlock[]];
  return refusal(first.code, `${interlocks.map(({ sentence }) => sentence).join(' ')} ${first.back}`, '/evidence');
}

interface Sent {
  readonly expectedVersion: number;
  readonly act?: string;
}

/** An operation on a plan under way: a command of core on the ledgers as they are when they are held. */
function inPlan<B extends Sent>(schema: object) {
  return <const P extends string>(
    path: P,
    summary: string,
    make: (
      asked: Asked<B>,
      plan: string,
      happenedAt: string,
      unit: string,
      units: readonly string[],
    ) => Promise<((world: World) => Made | StepStopped | Refusal) | Refusal>,
  ) =>
    operationTaking<B>(schema)({
      method: 'POST',
      path: `/units/{id}/plans/{plan}/${path}` as const,
      summary,
      needs: 'keeper',
      scope: 'write',
      status: 201,
      run: aboutRun(async (asked: Asked<B>, { unit, plan }) => {
        const { app, viewer, body, now } = asked;
        const given = momentOf((body as { readonly happenedAt?: string }).happenedAt, now);
        if (isRefusal(given)) return given;
        // The clock of a browser and ours differ by seconds.
        const happenedAt = inItsMinute(given, latestOf(plan.run));
        const command = await make(asked, plan.id, happenedAt, unit, plan.run.units);
        if (isRefusal(command)) return command;
        const result = await inTransaction(app.db, (tx) =>
          commandIn(tx, {
            id: body.act?.toLowerCase() ?? randomUUID(),
            by: actorOf(viewer),
            happenedAt,
            now: now.toISOString(),
            plan: plan.id,
            units: plan.run.units,
            expects: expectsUnit(unit, body.expectedVersion),
            make: command,
          }),
        );
        return isRefusal(result) ? result : planAnswer(result, plan.id, unit);
      }),
    });
}

interface StepBody extends Sent {
  readonly step: string;
  readonly evidence: StepEvidence;
  readonly happenedAt?: string;
  readonly override?: Override;
  readonly wasStopped?: boolean;
}

/** The command for one step, with what is recorded of the drive in hand; a picture is one of the unit's papers. */
async function stepCommand(
  app: App,
  { unit, plan, units }: { readonly unit: string; readonly plan: string; readonly units: readonly string[] },
  { step, evidence, override }: Pick<StepBody, 'step' | 'evidence' | 'override'>,
  happenedAt: string,
  isOwner: boolean,
): Promise<((world: World) => Made | StepStopped | Refusal) | Refusal> {
  if (evidence.kind === 'picture' && !(await papersOf(app.db, { unit })).some(({ id }) => id === evidence.paper))
    return refusal('paper-unknown', 'This picture is not among the papers of the unit.', '/evidence/paper');
  const read =
    evidence.kind === 'serial'
      ? [evidence.serial]
      : evidence.kind === 'scans'
        ? evidence.scans.map(({ serial }) => serial)
        : evidence.kind === 'drives'
          ? evidence.drives.map(({ serial }) => serial)
          : [];
  const known = new Map(
    await Promise.all(read.map(async (serial) => [serial, (await knownOf(app, serial, units)) ?? undefined] as const)),
  );
  return (world) =>
    doStep(world, {
      plan,
      step,
      evidence,
      happenedAt,
      isOwner,
      knows: (serial) => known.get(serial),
      ...(override === undefined ? {} : { override }),
    });
}

/** What was stopped where it was tried is told as that; where nothing stops it here it is not done all the same. */
function onlyTold(command: (world: World) => Made | StepStopped | Refusal): typeof command {
  return (world) => {
    const seen = command(world);
    return isRefusal(seen) || seen.kind === 'stopped'
      ? seen
      : refusal('not-stopped', 'By the record as it is now nothing stops that: nothing was recorded.', '/wasStopped');
  };
}

const step = inPlan<StepBody>(stepSchema)(
  'steps',
  'Do a step, with the evidence it asks for; what it changes is recorded with it, or neither is. A step that must not be done is refused with what would be lost and the way back, and that is recorded',
  async ({ app, viewer, body }, plan, happenedAt, unit, units) => {
    const command = await stepCommand(app, { unit, plan, units }, body, happenedAt, mayAct(viewer, 'owner'));
    return isRefusal(command) || body.wasStopped !== true ? command : onlyTold(command);
  },
);

const enterSheet = operationTaking<FromSchema<typeof sheetSchema>>(sheetSchema)({
  method: 'POST',
  path: '/units/{id}/plans/{plan}/sheet',
  summary: 'Enter a sheet filled in by hand: steps in order, each with its time and judged at it; all of them or none',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutRun(async ({ app, viewer, body, now }, { unit, plan }) => {
    const result = await inTransaction(app.db, (tx) =>
      enterRows(app, tx, { unit, plan }, body, { by: actorOf(viewer), now }),
    );
    return isRefusal(result) ? result : planAnswer(result, plan.id, unit);
  }),
});

/** Row by row, each an act of its own at its own time; the first that may not be leaves nothing of the sheet behind. */
async function enterRows(
  app: App,
  tx: Transaction,
  { unit, plan }: InRun,
  { expectedVersion, steps: rows }: FromSchema<typeof sheetSchema>,
  { by, now }: { readonly by: ReturnType<typeof actorOf>; readonly now: Date },
): Promise<Done | Refusal> {
  let before = latestOf(plan.run);
  let above: string | null = null;
  let done: Done | Refusal = refusal('nothing-to-record', 'There is nothing to record.', '/steps');
  for (const [i, row] of rows.entries()) {
    const here = (no: Refusal): Refusal => ({
      ...no,
      pointer: no.code === 'version-conflict' ? '/expectedVersion' : `/steps/${String(i)}${no.pointer ?? ''}`,
    });
    const given = momentOf(row.happenedAt, now);
    if (isRefusal(given)) return here(given);
    const happenedAt = inItsMinute(given, before);
    if (above !== null && happenedAt < above)
      return here(refusal('out-of-order', 'It lies before the step above it.', '/happenedAt'));
    const make = await stepCommand(
      app,
      { unit, plan: plan.id, units: plan.run.units },
      { step: row.step, evidence: row.evidence as StepEvidence },
      happenedAt,
      false,
    );
    if (isRefusal(make)) return here(make);
    const expects = i === 0 ? expectsUnit(unit, expectedVersion) : [];
    const result = await commandIn(tx, {
      id: randomUUID(),
      by,
      happenedAt,
      now: now.toISOString(),
      plan: plan.id,
      units: plan.run.units,
      expects,
      make,
    });
    if (isRefusal(result)) return here(result);
    if (result.kind === 'stopped')
      return here({ ...stopWords(result.interlocks), more: { interlocks: result.interlocks } });
    done = result;
    above = happenedAt;
    if (happenedAt > before) before = happenedAt;
  }
  return done;
}

/** When the plan was last touched. */
function latestOf({ startedAt, done }: PlanRun): string {
  return Object.values(done).reduce((latest, { at: time }) => (time > latest ? time : latest), startedAt);
}

/** A sheet knows the minute, not the second, and clocks differ: within one minute, what is written later happened later. */
function inItsMinute(given: string, before: string): string {
  const earlier = Date.parse(before) - Date.parse(given);
  return earlier > 0 && earlier < 60_000 ? before : given;
}

const pause = inPlan<FromSchema<typeof pauseSchema>>(pauseSchema)(
  'pause',
  'Let a plan rest, with words for whoever goes on; the next step done ends the rest',
  ({ body: { note } }, plan) => Promise.resolve((world) => pausePlan(world, { plan, note })),
);

const skip = inPlan<FromSchema<typeof skipSchema>>(skipSchema)(
  'skips',
  'Leave a step out, with the reason; only steps that may be',
  ({ body }, plan) => Promise.resolve((world) => skipStep(world, { plan, step: body.step, reason: body.reason })),
);

const end = inPlan<FromSchema<typeof endSchema>>(endSchema)(
  'end',
  'Finish a plan whose steps are done, or stop one half-way',
  ({ body: { how, note } }, plan) => Promise.resolve((world) => endPlan(world, { plan, how, note })),
);

const goBack = operationTaking<FromSchema<typeof backSchema>>(backSchema)({
  method: 'POST',
  path: '/units/{id}/plans/{plan}/back',
  summary: 'Take a step back: the whole act it was done by, with all it changed',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutRun(async ({ app, viewer, body, now }, { unit, plan }) => {
    const result = await inTransaction(app.db, async (tx) => {
      const name = planLedger(plan.id);
      const [entries, gone] = [await entriesOf<PlanEvent>(tx, name), await takenBackActs(tx, name)];
      const no = whyNotBack(worldOf(await loadLedgers(tx, [name, unitLedger(unit)], '9999')), plan.id, body.step);
      if (no) return no;
      const entry = entries.findLast(
        ({ act, event }) =>
          !gone.has(act) && (event.kind === 'step-done' || event.kind === 'step-skipped') && event.step === body.step,
      );
      if (!entry) return refusal('step-not-done', 'This step has not been done.', '/step');
      const asked = {
        id: body.act?.toLowerCase() ?? randomUUID(),
        by: actorOf(viewer),
        happenedAt: now.toISOString(),
        expects: expectsUnit(unit, body.expectedVersion),
      };
      return takeBackActIn(tx, asked, entry.act, 'step taken back');
    });
    if (isRefusal(result))
      return { ...result, pointer: result.code === 'version-conflict' ? '/expectedVersion' : '/step' };
    return planAnswer(result, plan.id, unit);
  }),
});

const getPlan = operation({
  method: 'GET',
  path: '/units/{id}/plans/{plan}',
  summary: 'A plan: its steps, what is done of them and with what evidence',
  needs: 'reader',
  scope: 'read',
  run: aboutRun((_asked, { plan: { id, version, run } }) => ({ id, version, run, next: nextStep(run)?.id ?? null })),
});

export const steps = [step, enterSheet, skip, goBack, pause, end, getPlan];
