import { SHEET_HEAD, sheetRows } from '../../core/drive/driveSheet';
import type { Profile } from '../../core/platform/profile';
import { poolsOf, type Pool, type UnitState } from '../../core/unit/state';
import type { ThoughtRates } from '../../core/risk/thoughtRate';
import type { App } from '../app';
import { readSeenOfDrives } from '../drives/ownRates';
import { readComparisons, type KeptComparison } from './comparisons';
import { toCsv } from '../takeAway/csv';
import { allProfiles } from '../settings/profiles';
import { sitesOf } from '../../store/shelf';
import { usedOf } from '../../store/readings';
import { isRefusal } from '../../core/value/refusal';
import { findUnit } from '../units/findUnit';

export interface BenchStart {
  readonly profiles: readonly Profile[];
  /** Sites that units stand at already. */
  readonly places: readonly string[];
  readonly kept: readonly KeptComparison[];
  /** What is thought of how often drives fail, by what failed here. */
  readonly rates: ThoughtRates;
  readonly begin: {
    readonly name: string;
    readonly sheet: string;
    readonly built: { readonly state: UnitState; readonly pool: string; readonly usedBytes: number | null } | null;
  } | null;
}

/** What the bench starts from: the profiles, what was kept, and perhaps a kept comparison or a unit's own drives. */
export async function readBenchStart(
  app: App,
  now: Date,
  keptId: string | null,
  unitId: string | null,
): Promise<BenchStart> {
  const [profiles, sites, kept, unit, { rates }] = await Promise.all([
    allProfiles(app),
    sitesOf(app.db),
    readComparisons(app),
    findUnit(app, unitId ?? undefined),
    readSeenOfDrives(app, now),
  ]);
  const comparison = kept.find(({ id }) => id === keptId)?.comparison;
  const start = { profiles: [...profiles.values()], places: sites.map(({ site }) => site), kept, rates };
  if (comparison) return { ...start, begin: { name: comparison.name, sheet: comparison.sheet, built: null } };
  if (isRefusal(unit)) return { ...start, begin: null };
  const [pool] = poolsOf(unit.state) as (Pool | undefined)[];
  const used = await usedOf(app.db, Object.keys(unit.state.pools));
  const drives = Object.values(unit.state.drives).filter(({ bay }) => bay !== null);
  return {
    ...start,
    begin: {
      name: unit.state.name,
      sheet: toCsv(
        SHEET_HEAD,
        sheetRows(
          drives.map((drive) => ({ ...drive, bay: drive.bay ?? '' })),
          true,
        ),
      ),
      built: pool ? { state: unit.state, pool: pool.id, usedBytes: used[pool.id] ?? null } : null,
    },
  };
}
