import type { UnitGrowthAsked } from '../../core/growth/unitGrowth';
import type { UnitState } from '../../core/unit/state';
import { usedOf } from '../../store/readings';
import type { App } from '../app';
import { readThoughts, type PoolThought } from '../drives/ownRates';

/** What the record says of a pool, as far as its growing depends on it. */
export interface GrowthGround extends Pick<UnitGrowthAsked, 'unit' | 'thought'> {
  /** As last read; `null` where nobody has. */
  readonly usedBytes: number | null;
}

/** What the record says of each pool of a unit. */
export async function growthGround(app: App, unit: UnitState, now: Date): Promise<(pool: string) => GrowthGround> {
  const [used, thoughts] = await Promise.all([usedOf(app.db, Object.keys(unit.pools)), readThoughts(app, now, [unit])]);
  return (pool) => {
    const { failuresPerYear, lots } = thoughts[pool] as PoolThought;
    return { unit, usedBytes: used[pool] ?? null, thought: { failuresPerYear, lots, now: now.toISOString() } };
  };
}
