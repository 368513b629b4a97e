import type { Thought } from '../outlook/lossAhead';
import { isRefusal } from '../value/refusal';
import type { Pool, UnitState } from '../unit/state';
import { gainsOf, type Gain } from './gains';
import { growingUnit } from './growingUnit';
import { stepRisk } from './stepRisk';
import { growthWished, type GrowthWish } from './wish';

export interface UnitGrowthAsked extends GrowthWish {
  /** By its id. */
  readonly pool: string;
  readonly usedBytes: number;
  readonly unit: UnitState;
  readonly thought: Thought & { readonly now: string };
}

/**
 * The cheapest way for a pool as it stands in its unit, each step with what it gives at once and only later, and what it risks.
 *
 * @param onProgress hears which share of the search is done, 0..1
 * @returns refused as {@link growthWished} is, and while a member is missing
 */
export function unitGrowthOf(
  { usedBytes, unit, thought, pool: id, ...wish }: UnitGrowthAsked,
  onProgress?: (share: number) => void,
) {
  const pool = unit.pools[id] as Pool;
  const start = growingUnit(unit, pool);
  if (isRefusal(start)) return start;
  const found = growthWished(wish, start, usedBytes, onProgress);
  if (isRefusal(found)) return found;
  const usedShare = Math.min(1, usedBytes / pool.shownBytes);
  const gains = gainsOf(found.best?.steps ?? [], pool.shownBytes);
  return {
    ...found,
    best: found.best && {
      ...found.best,
      steps: found.best.steps.map((step, i) => ({
        ...step,
        gain: gains[i] as Gain,
        // Of drives that are yet to be bought, in a unit that is too, nothing is known.
        ...(step.isInNewUnit ? {} : { risk: stepRisk(unit, pool, step, usedShare, thought) }),
      })),
    },
  };
}
