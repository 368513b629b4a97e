import { expose } from 'comlink';
import { unitGrowthOf, type UnitGrowthAsked } from '~/core/growth/unitGrowth';
import type { Refusal } from '~/core/value/refusal';

export type GrowthFound = Exclude<ReturnType<typeof unitGrowthOf>, Refusal>;

/** Finds the cheapest way off the page's own thread. */
const finder = {
  find: (asked: UnitGrowthAsked, onProgress: (share: number) => void): GrowthFound | Refusal =>
    unitGrowthOf(asked, onProgress),
};

export type GrowthFinder = typeof finder;

expose(finder);
