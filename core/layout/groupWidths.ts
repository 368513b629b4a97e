import type { SchemeLimits } from '../platform/profile';
import { fewestPerGroup } from './scheme';
import type { SpareWish } from './spares';

/**
 * Every group width that fits: at least three members a group for single parity and four for double, at least two
 * groups, nothing left over unless the family accepts leftovers, and only widths the family offers.
 *
 * @param count drives, spares among them
 * @returns widths, ascending; empty when none fits
 */
export function groupWidthsThatFit(
  count: number,
  redundancy: number,
  limits: SchemeLimits,
  spares: SpareWish = 0,
): number[] {
  const widths: number[] = [];
  for (let width = fewestPerGroup(redundancy); width * 2 <= count; width++) {
    const members = membersLeft(count, width, spares, limits);
    if (members !== null && whyWidthDoesNotFit(width, members, redundancy, limits) === null) widths.push(width);
  }
  return widths;
}

/** Members once the spares are off; `null` where some group would get no spare of its own. */
function membersLeft(count: number, width: number, spares: SpareWish, limits: SchemeLimits): number | null {
  if (typeof spares === 'number') return count - spares;
  const run = width + spares.perGroup;
  const rest = count % run;
  if (rest > 0 && (limits.leftovers !== true || rest >= width)) return null;
  return count - spares.perGroup * Math.floor(count / run);
}

/** Why this width cannot be, with the nearest one that can; `null` when it fits. */
export function whyWidthDoesNotFit(
  width: number,
  count: number,
  redundancy: number,
  limits: SchemeLimits,
): string | null {
  const fewest = fewestPerGroup(redundancy);
  if (width < fewest) return `A group needs at least ${String(fewest)} drives; ${String(width)} were asked for.`;
  if (limits.widths && !limits.widths.includes(width))
    return `This family makes groups of ${limits.widths.join(', ')} drives only.`;
  if (width * 2 > count)
    return `Two groups of ${String(width)} need ${String(width * 2)} drives; ${String(count)} are there.`;
  if (count % width !== 0 && limits.leftovers !== true) {
    const over = count % width;
    return `${String(count)} drives do not divide into groups of ${String(width)}: take away ${String(over)} or add ${String(width - over)}.`;
  }
  return null;
}
