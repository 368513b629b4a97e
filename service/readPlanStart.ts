import type { DrawerDrive } from '../core/upkeep/spareCoverage';
import { isRefusal } from '../core/value/refusal';
import { drawerDrives, lifeOf } from '../store/driveLives';
import { partsOfUnits } from '../store/shelf';
import type { StoredUnit } from '../store/units';
import type { App } from './app';
import { findUnit } from './unitOperations';

export interface PlanStart {
  readonly unit: StoredUnit;
  /** What lies in drawers and could go in. */
  readonly drawers: readonly (DrawerDrive & { readonly model?: string })[];
}

/** What a plan to commission starts from; `null` when there is no such unit. */
export async function readPlanStart(app: App, id: string): Promise<PlanStart | null> {
  const unit = await findUnit(app, id);
  if (isRefusal(unit)) return null;
  const drawers = await drawerDrives(app.db);
  const models = await Promise.all(drawers.map(async ({ serial }) => (await lifeOf(app.db, serial))?.life.drive.model));
  return { unit, drawers: drawers.map((drive, i) => ({ ...drive, ...(models[i] === undefined ? {} : { model: models[i] }) })) };
}

/** Units without a pool and without a plan under way. */
export async function readBare(app: App): Promise<{ readonly id: string; readonly name: string }[]> {
  const units = await partsOfUnits(app.db, ['pools', 'plans']);
  return units.filter(({ state }) => Object.keys(state.pools).length === 0 && !Object.values(state.plans).some(({ ended }) => ended === undefined));
}
