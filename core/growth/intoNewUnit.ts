import { planLayout } from '../layout/planLayout';
import { redundancyOf } from '../pool/builtPool';
import { drivesByName, poolOfLayout } from '../pool/ofLayout';
import { centsIn, type Costs } from './priceList';
import { growingOf, sizesFor, type Move } from './growing';
import type { NewUnit } from './newUnit';

/**
 * Every way to begin with it: so many drives of one size, from the fewest its pool can have to all its bays. Drives of other sizes
 * come as steps afterwards; those of the old unit stay where they are, with what is copied from them.
 */
export function intoNewUnit(
  { profile, scheme, groupWidth, bays }: NewUnit,
  sizes: readonly number[],
  leastMargin: number,
): Move[] {
  return sizesFor({ profile }, { sizes }).flatMap((bytes) =>
    bays.flatMap((_, i): Move[] => {
      const drives = bays.slice(0, i + 1).map((bay) => ({ bay, bytes }));
      const layout = planLayout(profile, scheme, drives, 0, groupWidth);
      if (!layout.legal) return [];
      const pool = poolOfLayout(layout);
      if (redundancyOf(pool) < leastMargin) return [];
      const after = growingOf(profile, pool, drivesByName(drives), bays.slice(i + 1));
      return [{ kind: 'new-unit', bays: drives.map(({ bay }) => bay), bytes, after: { ...after, isInNewUnit: true } }];
    }),
  );
}

/** A bound from below on drives that hold so many bytes, in the money of today: no drive costs less before that month. */
export function leastForBytes(
  bytes: number,
  month: number,
  { prices, declinePerYear, discountPerYear }: Pick<Costs, 'prices' | 'declinePerYear' | 'discountPerYear'>,
): number {
  const aByte = Math.min(...prices.map((price) => centsIn(price.cents, month, declinePerYear) / price.bytes));
  // One less, for each sum is rounded.
  return (Math.max(0, bytes) * aByte) / (1 + discountPerYear) ** (month / 12) - 1;
}

/** The same of a new unit with drives that hold so many bytes: none is shown that is not on a drive. */
export function leastForNewUnit({ cents, profile }: NewUnit, neededBytes: number, month: number, costs: Costs): number {
  const taken = sizesFor({ profile }, { sizes: costs.prices.map(({ bytes }) => bytes) });
  const prices = costs.prices.filter(({ bytes }) => taken.includes(bytes));
  const unit = (cents + costs.labourCents) / (1 + costs.discountPerYear) ** (month / 12);
  return unit + leastForBytes(neededBytes, month, { ...costs, prices });
}
