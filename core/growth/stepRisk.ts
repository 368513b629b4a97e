import { lossAhead, type Thought } from '../outlook/lossAhead';
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
  /** The chance that failures within these hours lose data, 0..1: as the data sheets have drives. */
  readonly loss: number;
  /** The same of these drives, their ages, signs and lots, from the least to the most of what is thought possible. */
  readonly lossBetween: readonly [number, number];
}

/**
 * How long a swap thins the pool, and what that risks: by today's members, one out while the new drive is written, or none
 * where the family replaces through a free bay. What is added thins nothing.
 *
 * @param usedShare share of the pool in use, 0..1
 * @param thought what is thought of its drives, as old as they are now (ISO 8601)
 */
export function stepRisk(
  unit: UnitState,
  pool: Pool,
  { kind, bays, bytes }: Pick<GrowthStep, 'kind' | 'bays' | 'bytes'>,
  usedShare: number,
  thought: Thought & { readonly now: string },
): StepRisk {
  const none: StepRisk = { hours: 0, thinHours: 0, loss: 0, lossBetween: [0, 0] };
  const old = kind === 'swap' ? driveInBay(unit, bays[0] ?? '') : undefined;
  if (!old) return none;
  const hours = rebuildOnto(unit, pool, old.serial, { bytes }, usedShare).likely / 3600;
  const risked = (of: Pool): Pick<StepRisk, 'loss' | 'lossBetween'> => ({
    loss: lossWithoutRepair(of, (serial) => failsByDataSheet(unit, serial, hours)),
    lossBetween: lossAhead(unit, of, hours, thought.now, thought),
  });
  if (unit.profile.rebuild.throughFreeBay && freeBays(unit).length > 0) return { hours, thinHours: 0, ...risked(pool) };
  const without = apply(unit, { kind: 'drive-removed', serial: old.serial }, unit.registeredAt);
  const thinned = isRefusal(without) ? undefined : entryOf(without.pools, pool.id);
  return thinned ? { hours, thinHours: hours, ...risked(thinned) } : none;
}
