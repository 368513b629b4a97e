import type { FromSchema } from 'json-schema-to-ts';
import { copyTroubles, poolsWithoutDataSet, type CopyTrouble } from '../../core/upkeep/copyNeeds';
import { spareCoverage, type BayCover } from '../../core/upkeep/spareCoverage';
import { upkeepOf, type DueTask } from '../../core/upkeep/upkeepOf';
import type { DataSet, UnitState } from '../../core/unit/state';
import { isRefusal, refusal } from '../../core/value/refusal';
import { testedModelSchema } from '../../schemas/record';
import { drawerDrives } from '../../store/driveLives';
import { deleteFeed, feedOf, saveFeed } from '../../store/feeds';
import { partsOfUnits } from '../../store/shelf';
import { deleteTestedModel, saveTestedModel, testedModels, type TestedModel } from '../../store/testedModels';
import { allUnits } from '../../store/units';
import type { App } from '../app';
import { hashOfKey, newKey } from '../access/oneTimeKey';
import { operation, operationTaking } from '../door/operation';
import { readNeeds } from '../units/readShelf';
import { findUnit } from '../units/findUnit';

export type { TestedModel };

const MOST_NEEDS = 500;

const needs = operation({
  method: 'GET',
  path: '/needs',
  summary: 'What needs hands now, most urgent first',
  needs: 'reader',
  scope: 'read',
  run: ({ app, now }) => readNeeds(app, now, MOST_NEEDS),
});

export interface UnitUpkeep {
  readonly unit: string;
  readonly unitName: string;
  readonly site: string;
  readonly tasks: readonly DueTask[];
}

/** The upkeep of every unit, each task with when it is next due. */
export async function readUpkeep(app: App): Promise<UnitUpkeep[]> {
  return (await partsOfUnits(app.db, ['upkeep', 'upkeepDone'])).map(({ id, name, site, state }) => ({
    unit: id,
    unitName: name,
    site,
    tasks: upkeepOf(state as UnitState).sort((a, b) => ((a.due ?? '9') < (b.due ?? '9') ? -1 : 1)),
  }));
}

const upkeep = operation({
  method: 'GET',
  path: '/upkeep',
  summary: 'The upkeep of every unit, with when each task is next due',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ units: await readUpkeep(app) }),
});

export interface UnitCopies {
  readonly unit: string;
  readonly unitName: string;
  readonly dataSets: readonly (DataSet & { readonly troubles: readonly CopyTrouble[] })[];
  /** Pools nobody has written a data set down for. */
  readonly uncovered: readonly string[];
}

/** The register of copies over all units, with what is wrong with each data set now. */
export async function readCopies(app: App, now: Date): Promise<UnitCopies[]> {
  const units = await partsOfUnits(app.db, ['dataSets', 'pools', 'registeredAt', 'movedTo']);
  return units.map(({ id, name, state }) => ({
    unit: id,
    unitName: name,
    dataSets: Object.values(state.dataSets).map((set) => ({
      ...set,
      troubles: copyTroubles(set, state.registeredAt).filter(({ from }) => from <= now.toISOString()),
    })),
    uncovered: poolsWithoutDataSet(state as UnitState),
  }));
}

const copies = operation({
  method: 'GET',
  path: '/copies',
  summary: 'Every data set, where its copies are, how old, whether a restore was tried',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, now }) => ({ units: await readCopies(app, now) }),
});

export interface CoverOfUnit {
  readonly unit: string;
  readonly unitName: string;
  readonly bays: readonly BayCover[];
}

/** For every bay of every unit, or of one: which drive in which drawer really fits, and how far away. */
export async function readCoverage(app: App, unit?: string): Promise<CoverOfUnit[]> {
  const [all, drawers] = await Promise.all([allUnits(app.db), drawerDrives(app.db)]);
  const units = unit === undefined ? all : all.filter(({ id }) => id === unit);
  return units.map((one) => ({ unit: one.id, unitName: one.state.name, bays: spareCoverage([one], drawers) }));
}

const coverage = operation({
  method: 'GET',
  path: '/spares',
  summary: 'For every bay, which spare really fits and how far away it is',
  query: { unit: 'The id of a unit: its bays only.' },
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => {
    const asked = query.get('unit');
    if (asked === null) return { units: await readCoverage(app) };
    const unit = await findUnit(app, asked);
    return isRefusal(unit) ? unit : { units: await readCoverage(app, unit.id) };
  },
});

const makeFeed = operation({
  method: 'POST',
  path: '/calendar-feed',
  summary: 'A new secret address for your calendar; the one before stops working',
  needs: 'reader',
  scope: null,
  status: 201,
  run: async ({ app, viewer }) => {
    const secret = newKey();
    await saveFeed(app.db, viewer.id, hashOfKey(secret));
    return { path: `/calendar/${secret}` };
  },
});

const dropFeed = operation({
  method: 'DELETE',
  path: '/calendar-feed',
  summary: 'Close your calendar address',
  needs: 'reader',
  scope: null,
  run: async ({ app, viewer }) =>
    (await deleteFeed(app.db, viewer.id)) ? { closed: true } : refusal('not-found', 'You have no calendar address.'),
});

export function readFeed(app: App, userId: string): Promise<{ readonly madeAt: string } | undefined> {
  return feedOf(app.db, userId);
}

const listTested = operation({
  method: 'GET',
  path: '/tested-models',
  summary: 'Your own list of tested drives',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ models: await testedModels(app.db) }),
});

const saveTested = operationTaking<FromSchema<typeof testedModelSchema>>(testedModelSchema)({
  method: 'POST',
  path: '/tested-models',
  summary: 'Put a model on your list of tested drives, or change what it says',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, body }) => {
    await saveTestedModel(
      app.db,
      { model: body.model.trim(), verdict: body.verdict, note: body.note ?? null },
      viewer.name,
    );
    return { models: await testedModels(app.db) };
  },
});

const removeTested = operation({
  method: 'DELETE',
  path: '/tested-models/{model}',
  summary: 'Take a model off your list of tested drives',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, params }) =>
    (await deleteTestedModel(app.db, params['model'] ?? ''))
      ? { model: params['model'] }
      : refusal('not-found', 'This model is not on your list.'),
});

export function readTestedModels(app: App): ReturnType<typeof testedModels> {
  return testedModels(app.db);
}

export const upkeepOperations = [
  needs,
  upkeep,
  copies,
  coverage,
  makeFeed,
  dropFeed,
  listTested,
  saveTested,
  removeTested,
];
