import { whyNotExtended } from '../../unit/enclosures';
import { fullMarginOfPool } from '../../unit/margin';
import { conversionsOf, type PoolConversion } from '../../pool/converted';
import { poolDrives } from '../../unit/grownByExpand';
import { freeBays, freeSlots, poolsOf, type Pool, type UnitState } from '../../unit/state';
import { idleAndWell } from './idleDrives';
import type { PlanJob } from '../../../schemas/plan';

/** The levels a pool may be changed to with its data kept, with as few drives added as free bays and idle drives allow. */
export function levelsOf(unit: UnitState, pool: Pool): readonly PoolConversion[] {
  const { possible } = conversionsOf(
    unit.profile,
    pool,
    poolDrives(unit, pool),
    freeBays(unit).length + idleAndWell(unit).length,
  );
  return possible.filter(({ keepsData }) => keepsData);
}

/**
 * The plans a person may ask for on a unit in use, as its family, its bays and its pools are now: what needs a free bay is
 * not offered where there is none. Whether one can be made in fact, and why not, is the plan's own to say.
 */
export function plansThatFit(unit: UnitState): readonly PlanJob[] {
  const { growth, volumes } = unit.profile;
  const pools = poolsOf(unit);
  if (pools.length === 0) return [];
  const isFree = freeBays(unit).length > 0;
  const fits: readonly (readonly [PlanJob, boolean])[] = [
    ['replace', true],
    ['grow', (isFree || idleAndWell(unit).length > 0) && growth.addDrives !== 'none'],
    ['replace-all', pools.some((pool) => fullMarginOfPool(pool) > 0)],
    ['convert', pools.some((pool) => levelsOf(unit, pool).length > 0)],
    ['hot-spare', isFree && pools.some((pool) => fullMarginOfPool(pool) > 0)],
    ['cache', freeSlots(unit).length > 0 || unit.cache.length > 0],
    ['new-pool', (isFree || idleAndWell(unit).length > 0) && volumes.count === 'many'],
    ['extend', whyNotExtended(unit, 1) === undefined],
  ];
  return fits.flatMap(([job, does]) => (does ? [job] : []));
}
