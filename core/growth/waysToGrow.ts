import type { Profile } from '../platform/profile';
import { addedAtATime } from '../pool/added';
import { redundancyOf } from '../pool/builtPool';
import { formatBytes } from '../quantity/formatBytes';
import { cheapestGrowth, decisionsOf, neededAfter, type GrowthPath, type Need, type NoPath } from './cheapestGrowth';
import { maySwap, type Allowed, type GrowthKind, type Growing } from './growing';
import type { Costs } from './priceList';

/** A way of one kind only, to be held against the best. */
export const WAYS = ['swap-only', 'add-only', 'group-only', 'buy-all-now'] as const;
export type Way = (typeof WAYS)[number];

export interface WaysToGrow {
  readonly kind: 'ways-to-grow';
  readonly best: GrowthPath | null;
  /** The cheapest of each other kind, where there is one, cheapest first. */
  readonly others: readonly { readonly way: Way; readonly path: GrowthPath }[];
  /** Where none keeps it: the nearest; and what on the price list was left aside. */
  readonly why?: string;
}

/**
 * The cheapest way to stay below the line, and beside it the cheapest of each other kind: only by swapping, only by adding
 * drives, only by whole groups, and everything bought at once.
 *
 * @returns `null` when the search was given up: too many bays and sizes at once
 */
export function waysToGrow(
  profile: Profile,
  start: Growing,
  need: Need,
  costs: Costs,
  allowed: Allowed,
): WaysToGrow | null {
  const fits = allowed.sizes.filter((bytes) => bytes <= (profile.bays.largestDriveBytes ?? Infinity));
  const within = { ...allowed, sizes: fits };
  const found = cheapestGrowth(profile, start, need, costs, within);
  if (found === null) return null;
  const aside =
    fits.length < allowed.sizes.length
      ? `Left aside: sizes above ${formatBytes(profile.bays.largestDriveBytes ?? 0)}, the largest this family takes.`
      : '';
  if (found.kind === 'no-path') {
    const why = [whyNone(profile, start, need, within, found), aside].filter(Boolean).join(' ');
    return Object.freeze({ kind: 'ways-to-grow', best: null, others: [], why });
  }
  const others = WAYS.flatMap((way) => {
    const path = onlyBy(way, profile, start, need, costs, within);
    return path ? [{ way, path }] : [];
  }).sort((a, b) => a.path.totalCents - b.path.totalCents);
  return Object.freeze({ kind: 'ways-to-grow', best: found, others, ...(aside === '' ? {} : { why: aside }) });
}

const KINDS: Readonly<Record<Exclude<Way, 'buy-all-now'>, GrowthKind>> = {
  'swap-only': 'swap',
  'add-only': 'add',
  'group-only': 'group',
};

function onlyBy(
  way: Way,
  profile: Profile,
  start: Growing,
  need: Need,
  costs: Costs,
  allowed: Allowed,
): GrowthPath | null {
  if (way === 'buy-all-now') {
    const last = decisionsOf(need).at(-1) ?? 0;
    // One decision, now, that has to last until the end.
    const once = {
      ...need,
      usedBytes: neededAfter(need, last) * need.line,
      perYearBytes: 0,
      years: need.everyMonths / 12,
    };
    const found = cheapestGrowth(profile, start, once, costs, allowed);
    return found?.kind === 'growth-path' ? found : null;
  }
  const kind = KINDS[way];
  if (!allowed.kinds.includes(kind)) return null;
  const found = cheapestGrowth(profile, start, need, costs, { ...allowed, kinds: [kind] });
  return found?.kind === 'growth-path' ? found : null;
}

function whyNone(
  profile: Profile,
  start: Growing,
  { line }: Need,
  allowed: Allowed,
  { lastsUntilMonth, mostBytes, neededBytes }: NoPath,
): string {
  const full = redundancyOf(start.pool);
  const reasons = [
    full < allowed.leastMargin
      ? `This pool can lose ${String(full)}: a floor of ${String(allowed.leastMargin)} cannot be kept by it at all.`
      : allowed.kinds.includes('swap') && full > 0 && !maySwap(profile, start, allowed)
        ? `While a member is swapped the pool can lose ${String(full - 1)}: with a floor of ${String(allowed.leastMargin)} none is. The nearest floor is ${String(full - 1)}.`
        : '',
    allowed.kinds.includes('swap') && full === 0
      ? 'Without protection no member is swapped under the data: it is copied off first.'
      : '',
    allowed.kinds.includes('add') && addedAtATime(profile, start.pool) === 0
      ? 'This family adds no single drives to such a pool.'
      : '',
  ].filter(Boolean);
  const until =
    lastsUntilMonth === null
      ? 'Nothing that is allowed keeps it below the line even once'
      : `Nothing that is allowed keeps it below the line after month ${String(lastsUntilMonth)}`;
  return `${until}: ${formatBytes(neededBytes)} usable are needed for ${String(Math.round(line * 100))} %, and the most it can hold is ${formatBytes(mostBytes)}.${reasons.map((one) => ` ${one}`).join('')}`;
}
