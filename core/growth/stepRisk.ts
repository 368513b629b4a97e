import { rebuildOnto } from '../rebuild/rebuildOnto';
import { failsByDataSheet, lossWithoutRepair } from '../risk/lossWithoutRepair';
import { apply } from '../unit/apply';
import { driveInBay, freeBays, type Pool, type UnitState } from '../unit/state';
import { entryOf } from '../value/entryOf';
import { isRefusal } from '../value/refusal';
import type { GrowthStep } from './cheapestGrowth';

/** What a step of growing asks of the pool while it is carried out. */
export interface StepRisk {
  /** Hours until the drive is written; 0 where nobody can say. */
  readonly hours: number;
  /** Hours of these with one member less. */
  readonly thinHours: number;
  /** The chance that failures within these hours lose data, 0..1. */
  readonly loss: number;
}

/**
 * How long a swap thins the pool, and what that risks: by today's members, one out while the new drive is written, or none
 * where the family replaces through a free bay. What is added thins nothing.
 *
 * @param usedShare share of the pool in use, 0..1
 */
export function stepRisk(
  unit: UnitState,
  pool: Pool,
  { kind, bays, bytes }: Pick<GrowthStep, 'kind' | 'bays' | 'bytes'>,
  usedShare: number,
): StepRisk {
  const none = { hours: 0, thinHours: 0, loss: 0 };
  const old = kind === 'swap' ? driveInBay(unit, bays[0] ?? '') : undefined;
  if (!old) return none;
  const hours = rebuildOnto(unit, pool, old.serial, { bytes }, usedShare).likely / 3600;
  const failsBy = (serial: string): number => failsByDataSheet(unit, serial, hours);
  if (unit.profile.rebuild.throughFreeBay && freeBays(unit).length > 0)
    return { hours, thinHours: 0, loss: lossWithoutRepair(pool, failsBy) };
  const without = apply(unit, { kind: 'drive-removed', serial: old.serial }, unit.registeredAt);
  const thinned = isRefusal(without) ? undefined : entryOf(without.pools, pool.id);
  return isRefusal(without) || !thinned ? none : { hours, thinHours: hours, loss: lossWithoutRepair(thinned, failsBy) };
}
