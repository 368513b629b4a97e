import type { DrawerDrive } from '../../core/upkeep/spareCoverage';
import type { ThoughtRates } from '../../core/risk/thoughtRate';
import { isRefusal } from '../../core/value/refusal';
import { drawerDrives, lifeOf } from '../../store/driveLives';
import { partsOfUnits } from '../../store/shelf';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { readSeenOfDrives } from '../drives/ownRates';
import { findUnit } from '../units/findUnit';

export interface PlanStart {
  readonly unit: StoredUnit;
  /** What lies in drawers and could go in. */
  readonly drawers: readonly (DrawerDrive & { readonly model?: string })[];
  readonly rates: ThoughtRates;
}

/** What a plan to commission starts from; `null` when there is no such unit. */
export async function readPlanStart(app: App, id: string, now: Date): Promise<PlanStart | null> {
  const unit = await findUnit(app, id);
  if (isRefusal(unit)) return null;
  const [drawers, { rates }] = await Promise.all([drawerDrives(app.db), readSeenOfDrives(app, now)]);
  const models = await Promise.all(drawers.map(async ({ serial }) => (await lifeOf(app.db, serial))?.life.drive.model));
  return {
    unit,
    rates,
    drawers: drawers.map((drive, i) => ({ ...drive, ...(models[i] === undefined ? {} : { model: models[i] }) })),
  };
}

interface Named {
  readonly id: string;
  readonly name: string;
}

/** Units a plan can begin at: those without a pool and without a plan under way, and those with one. */
export async function readUnitsToPlan(
  app: App,
): Promise<{ readonly bare: readonly Named[]; readonly pooled: readonly Named[] }> {
  const units = await partsOfUnits(app.db, ['pools', 'plans']);
  const hasPool = ({ state }: (typeof units)[number]): boolean => Object.keys(state.pools).length > 0;
  return {
    bare: units.filter((unit) => !hasPool(unit) && Object.keys(unit.state.plans).length === 0),
    pooled: units.filter(hasPool).slice(0, MOST_NAMED),
  };
}

/** More than this are found from the shelf. */
const MOST_NAMED = 24;
