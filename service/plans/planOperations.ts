import { randomUUID } from 'node:crypto';
import { dryRunOver, type DryStep, type DryStop } from '../../core/plan/engine/dryRun';
import { keyed } from '../../core/drive/keyed';
import { actingOn, makePlan, type WishOf } from '../../core/plan/makers/makePlan';
import { boxesOfStep } from '../../core/plan/engine/boxesOfStep';
import { groupsAhead } from '../../core/plan/engine/groupsAhead';
import type { PlanBody, PlanStep } from '../../core/plan/plan';
import { risksOf, type Known, type PlanRisk } from '../../core/plan/engine/timeline';
import { whyNotWhole } from '../../core/driveLife/whyNotWhole';
import { rescueOf } from '../../core/rescue/rescueOf';
import { startPlan } from '../../core/plan/run/startPlan';
import type { PlanRun } from '../../core/planRun/planRun';
import type { UnitEvent } from '../../core/unit/event';
import { BayName, bayShort } from '../../core/unit/bayName';
import type { GroupsShown } from '../../core/unit/boxWords';
import { driveInBay, poolOfDrive, type UnitState } from '../../core/unit/state';
import { planLedger, unitLedger, type LedgerName } from '../../core/world/ledger';
import { entryOf } from '../../core/value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { JOBS, type PlanJob } from '../../schemas/plan';
import { planAskedSchema, planStartSchema } from '../../schemas/record';
import { lifeOf } from '../../store/driveLives';
import { usedOf } from '../../store/readings';
import { entriesOf } from '../../store/acts';
import { allPlans } from '../../store/plans';
import { testedModels } from '../../store/testedModels';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { knownDrive } from '../../core/plan/engine/knownDrive';
import { operation, operationTaking } from '../door/operation';
import { inTransaction } from '../ledgers/inTransaction';
import { actOf, expectsUnit } from '../ledgers/asked';
import { commandIn } from '../ledgers/command';
import { readKnown } from './readKnown';
import { planAnswer, steps } from './stepOperations';
import { readUsed } from '../units/readUnit';
import { aboutUnit, findUnit } from '../units/findUnit';

/** A wish as it was sent: the schema of its job has checked it. */
type Wish = WishOf[PlanJob];

/** The other unit of a plan over two: the one it is moved to, or its drives were carried to. */
async function otherUnit(
  app: App,
  unit: StoredUnit,
  job: PlanJob,
  wish: Wish,
): Promise<StoredUnit | undefined | Refusal> {
  const to = job === 'move' && 'to' in wish ? wish.to : job === 'carry-back' ? unit.state.packed?.to : undefined;
  if (to === undefined) return undefined;
  const other = await findUnit(app, to);
  if (isRefusal(other)) return { ...other, pointer: '/wish/to' };
  return other.id === unit.id ? { ...SAME_UNIT, pointer: '/wish/to' } : other;
}

export const SAME_UNIT = refusal('same-unit', 'A unit is not moved to itself: name the other.', '/to');

/** A plan that carries drives back ends the one that carried them out. */
function takenOverBy({ state }: StoredUnit, job: PlanJob): LedgerName[] {
  return job === 'carry-back'
    ? Object.values(state.plans).flatMap((one) => (one.job === 'move' ? [planLedger(one.id)] : []))
    : [];
}

/** The plan for a wish, with what is on record: tested drives, how full the pool is, what the drawers say of the drive. */
export async function planned(
  app: App,
  unit: StoredUnit,
  job: PlanJob,
  sent: Wish,
  other?: StoredUnit,
): Promise<PlanBody | Refusal> {
  const wish = keyed(sent, '/wish');
  if (isRefusal(wish)) return wish;
  const verdicts = new Map((await testedModels(app.db)).map(({ model, verdict }) => [model.toLowerCase(), verdict]));
  const tested = (model: string): 'works' | 'avoid' | undefined => verdicts.get(model.toLowerCase());
  const events = job === 'rescue' ? await entriesOf<UnitEvent>(app.db, unitLedger(unit.id)) : [];
  const wished = 'drive' in wish ? wish.drive : undefined;
  const known = wished?.serial === undefined ? undefined : await lifeOf(app.db, wished.serial);
  const drive = wished && { ...wished, ...(known ? knownDrive(known.life).facts : {}) };
  const share = 'usedShare' in wish ? undefined : await usedShareOf(app, unit, wish);
  const whole = {
    ...wish,
    tested,
    ...(drive === undefined ? {} : { drive }),
    ...(share === undefined ? {} : { usedShare: share }),
    ...(other === undefined
      ? {}
      : { around: { from: unit.id, target: other.state, used: await readUsed(app, unit, other) } }),
  } as Wish;
  const holds = 'idle' in wish ? await whyHolds(app, unit, wish.idle ?? []) : undefined;
  if (holds) return holds;
  const empty = 'how' in wish && wish.how === 'whole' ? await whyEmpty(app, unit, wish.serial) : undefined;
  if (empty) return empty;
  const plan = makePlan(job, unit.state, whole, events, randomUUID);
  return isRefusal(plan) ? { ...plan, pointer: `/wish${plan.pointer ?? ''}` } : actingOn(plan, unit.id);
}

/** A member that was out, and has been emptied or elsewhere since, does not come back whole. */
async function whyEmpty(app: App, { state }: StoredUnit, serial: string): Promise<Refusal | undefined> {
  const drive = entryOf(state.drives, serial);
  const pool = poolOfDrive(state, serial);
  if (!drive || !pool || (drive.bay !== null && drive.backIn !== true)) return undefined;
  const life = await lifeOf(app.db, serial);
  const why = life && whyNotWhole(life.life, pool.id);
  return why && { ...why, pointer: '/wish/how' };
}

/** An idle drive that still holds what another pool lost is nothing to build on: its own ledger knows. */
async function whyHolds(app: App, { state }: StoredUnit, bays: readonly string[]): Promise<Refusal | undefined> {
  for (const bay of bays) {
    const serial = driveInBay(state, bay)?.serial;
    const life = serial === undefined ? undefined : await lifeOf(app.db, serial);
    const holds = life && knownDrive(life.life).holds;
    if (holds)
      return refusal(
        'holds-data',
        `${BayName(state, bay)} (${serial ?? ''}) still holds what it had as a member of ${holds.name} in ${holds.unitName}: it would be erased. If nothing of it is needed, record on its own page that it was wiped.`,
        '/wish/idle',
      );
  }
  return undefined;
}

async function usedShareOf(app: App, { state }: StoredUnit, wish: Wish): Promise<number | undefined> {
  const pool =
    'pool' in wish && typeof wish.pool === 'string'
      ? entryOf(state.pools, wish.pool)
      : 'serial' in wish
        ? poolOfDrive(state, wish.serial)
        : undefined;
  const used = pool && (await usedOf(app.db, [pool.id]))[pool.id];
  return pool && used !== undefined ? Math.min(1, used / pool.shownBytes) : undefined;
}

/** A dry run as it goes out: what every step would do, without the states in between, and what that risks. */
export interface PlanTried {
  /** Steps that make, fit or count groups say which bays are whose, as the unit calls them. */
  readonly plan: Omit<PlanBody, 'steps'> & { readonly steps: readonly (PlanStep & Partial<GroupsShown>)[] };
  readonly dryRun: readonly (Omit<DryStep, 'after' | 'states'> | DryStop)[];
  readonly risks: readonly PlanRisk[];
}

/** The plan on the units it acts on, the first first. */
export function shownRun(units: readonly StoredUnit[], plan: PlanBody, now: Date, known: Known): PlanTried {
  const states = Object.fromEntries(units.map(({ id, state }) => [id, state]));
  const run = dryRunOver(states, plan, now.toISOString());
  return {
    plan: units[0] ? withGroups(units[0].state, plan, run) : plan,
    dryRun: run.map((step) => {
      if (step.kind === 'dry-stop') return step;
      const { after: _state, states: _all, ...rest } = step;
      return rest;
    }),
    risks: risksOf(states, run, now.toISOString(), known),
  };
}

function withGroups(unit: UnitState, plan: PlanBody, run: readonly (DryStep | DryStop)[]): PlanTried['plan'] {
  const ahead = groupsAhead(unit, plan, run);
  if (!ahead) return plan;
  const { shown } = ahead;
  const called = (bays: readonly string[]): string[] => bays.map((bay) => bayShort(ahead, bay));
  const groups = {
    groups: shown.groups.map(({ name, bays }) => ({ name, bays: called(bays) })),
    spareBays: called(shown.spareBays),
    idleBays: called(shown.idleBays),
  };
  return {
    ...plan,
    steps: plan.steps.map((step) => (boxesOfStep(ahead, step).length > 0 ? { ...step, ...groups } : step)),
  };
}

const SUMMARIES: Readonly<Record<PlanJob, string>> = {
  commission: 'The plan that takes a unit from its box to its first backup',
  replace: 'The plan to replace one drive, in its bay or through a free one',
  'replace-all': 'The plan to replace every member by a larger drive, one at a time',
  grow: 'The plan to add a drive, a pair or a whole group to a pool',
  convert: 'The plan to change the level of a pool that keeps its data, with drives added where it needs them',
  'new-pool': 'The plan to make one more pool of new or idle drives, in a unit that is in use',
  'hot-spare': 'The plan to fit a spare in a free bay and give it to a pool',
  cache: 'The plan to add drives of cache, to take the cache out, or to renew it whole',
  extend: 'The plan to hang one more extension behind the last',
  retire:
    'The plan to take a unit out of use: its copies proven, its pools closed, each drive out by serial, wiped and gone',
  'spare-in': 'The plan when a spare takes over and is replaced itself',
  'came-back': 'The plan for a drive that dropped out and is there again',
  move: 'The plan to move a unit to a newer one, by one of the ways between the two',
  'carry-back': 'The plan that puts carried drives back into the bays they came from',
  rescue: 'The plan for a pool that has lost more than it may, or a unit that offers only to erase',
};

/** Of a move both units are asked for, with every way between them. */
const tries = JOBS.filter((job) => job !== 'move').map((job) =>
  operationTaking<{ readonly unit: string; readonly wish: Wish }>(planAskedSchema(job))({
    method: 'POST',
    path: `/plans/${job}` as const,
    summary: `${SUMMARIES[job]}, tried without recording anything`,
    needs: 'reader',
    scope: 'read',
    run: async ({ app, body, now }) => {
      const unit = await findUnit(app, body.unit);
      if (isRefusal(unit)) return { ...unit, pointer: '/unit' };
      const other = await otherUnit(app, unit, job, body.wish);
      if (isRefusal(other)) return other;
      const plan = await planned(app, unit, job, body.wish, other);
      const units = other ? [unit, other] : [unit];
      return isRefusal(plan) ? plan : shownRun(units, plan, now, await readKnown(app, units, now));
    },
  }),
);

const start = operationTaking<{
  readonly expectedVersion: number;
  readonly act?: string;
  readonly job: PlanJob;
  readonly wish: Wish;
}>(planStartSchema)({
  method: 'POST',
  path: '/units/{id}/plans',
  summary: 'Begin a plan',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutUnit(async (asked, unit) => {
    const { app, body, now } = asked;
    const other = await otherUnit(app, unit, body.job, body.wish);
    if (isRefusal(other)) return other;
    // One that cannot be made is refused last: it may be the one that was begun by this very act, or seen too late.
    const plan = await planned(app, unit, body.job, body.wish, other);
    const units = other ? [unit.id, other.id] : [unit.id];
    const act = actOf(
      { ...asked, body: body.act === undefined ? {} : { act: body.act } },
      [],
      expectsUnit(unit.id, body.expectedVersion),
    );
    if (isRefusal(act)) return act;
    const { id, by, happenedAt, expects } = act;
    // A plan goes by the act it was begun with.
    const over = takenOverBy(unit, body.job);
    const command = { id, by, happenedAt, now: now.toISOString(), plan: id, units, expects, also: over };
    const result = await inTransaction(app.db, (tx) =>
      commandIn(tx, {
        ...command,
        make: (world) =>
          isRefusal(plan)
            ? plan
            : startPlan(
                world,
                id,
                units,
                plan,
                over.map((one) => one.id),
              ),
      }),
    );
    if (result === plan) return plan;
    return isRefusal(result)
      ? { ...result, pointer: result.code === 'version-conflict' ? '/expectedVersion' : '/job' }
      : planAnswer(result, id, unit.id);
  }),
});

export interface ListedPlan {
  readonly id: string;
  readonly unit: string;
  readonly unitName: string;
  readonly run: PlanRun;
}

/** Every plan, those under way first, then the newest. */
export async function readPlans(app: App): Promise<ListedPlan[]> {
  return (await allPlans(app.db)).map(({ id, run, unitNames }) => ({
    id,
    unit: run.units[0] ?? '',
    unitName: unitNames[0] ?? '',
    run,
  }));
}

const list = operation({
  method: 'GET',
  path: '/plans',
  summary: 'Every plan, those under way first',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ plans: await readPlans(app) }),
});

const rescueDesk = operation({
  method: 'GET',
  path: '/units/{id}/rescue',
  summary: 'The rescue desk: what not to touch, which drives are kept and in what order they are tried, by the ledger',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(async ({ app }, unit) =>
    rescueOf(unit.state, await entriesOf<UnitEvent>(app.db, unitLedger(unit.id))),
  ),
});

export const plans = [...tries, start, ...steps, list, rescueDesk];
