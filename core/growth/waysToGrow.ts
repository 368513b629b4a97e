import { addedAtATime } from '../pool/added';
import { redundancyOf } from '../pool/builtPool';
import { formatBytes } from '../quantity/formatBytes';
import {
  cheapestGrowth,
  decisionsOf,
  neededAfter,
  type GrowthPath,
  type GrowthStep,
  type Need,
  type NoPath,
} from './cheapestGrowth';
import { maySwap, sizesFor, type Allowed, type GrowthKind, type Growing } from './growing';
import type { Costs } from './priceList';

/** A way of one kind only, to be held against the best. */
export const WAYS = ['swap-only', 'add-only', 'group-only', 'new-unit', 'buy-all-now'] as const;
export type Way = (typeof WAYS)[number];

export interface WaysToGrow {
  readonly kind: 'ways-to-grow';
  readonly best: GrowthPath | null;
  /** The cheapest of each other kind, where there is one, cheapest first. */
  readonly others: readonly { readonly way: Way; readonly path: GrowthPath }[];
  /** Where none keeps it: the nearest; and what on the price list was left aside. */
  readonly why?: string;
  /** Where only the money is too little: what the cheapest way without a limit costs in its dearest year. */
  readonly dearestYearCents?: number;
  /** What it costs to wait until it hurts, where something has to be done and waiting is possible at all. */
  readonly late?: LateWay;
}

/** The cheapest way where nothing is done until the pool is nearly full. */
export interface LateWay {
  /** So full it may be, as a share. */
  readonly line: number;
  /** The first month in which it stands above the line that was asked for; `null` where it never does. */
  readonly fromMonth: number | null;
  readonly path: GrowthPath;
}

/** Full enough that people act whether they planned to or not (common practice: file systems slow, jobs fail). */
const HURTS = 0.95;
/** The best way is what most of the time is spent on. */
const BEST_SHARE = 0.6;

/**
 * The cheapest way to stay below the line, and beside it the cheapest of each other kind: only by swapping, only by adding
 * drives, only by whole groups, by a new unit and nothing before, and everything bought at once.
 *
 * @param onProgress hears which share of all of it is done, 0..1
 * @returns `null` when the search was given up: too many bays and sizes at once
 */
export function waysToGrow(
  start: Growing,
  need: Need,
  costs: Costs,
  allowed: Allowed,
  onProgress?: (share: number) => void,
): WaysToGrow | null {
  const found = cheapestGrowth(start, need, costs, allowed, (share) => onProgress?.(share * BEST_SHARE));
  if (found === null) return null;
  const aside =
    sizesFor(start, allowed).length < allowed.sizes.length
      ? `Left aside: sizes above ${formatBytes(start.profile.bays.largestDriveBytes ?? 0)}, the largest this family takes.`
      : '';
  const none = (why: string) => ({
    kind: 'ways-to-grow' as const,
    best: null,
    others: [],
    why: [why, aside].filter(Boolean).join(' '),
  });
  if (found.kind === 'no-path') return Object.freeze(none(whyNone(start, need, allowed, found)));
  if (found.kind === 'over-budget') {
    const { budgetCentsPerYear: _, ...unlimited } = costs;
    const dearer = cheapestGrowth(start, need, unlimited, allowed);
    return Object.freeze({
      ...none('There is room enough, and too little money in some year to buy it in time.'),
      ...(dearer?.kind === 'growth-path' ? { dearestYearCents: dearestYear(dearer.steps) } : {}),
    });
  }
  const others = WAYS.flatMap((way, i) => {
    onProgress?.(BEST_SHARE + ((1 - BEST_SHARE) * i) / (WAYS.length + 1));
    const path = onlyBy(way, start, need, costs, allowed);
    return path ? [{ way, path }] : [];
  }).sort((a, b) => a.path.totalCents - b.path.totalCents);
  onProgress?.(BEST_SHARE + ((1 - BEST_SHARE) * WAYS.length) / (WAYS.length + 1));
  const late = found.steps.length > 0 ? whenItHurts(start, need, costs, allowed) : undefined;
  return Object.freeze({
    kind: 'ways-to-grow',
    best: found,
    others,
    ...(late === undefined ? {} : { late }),
    ...(aside === '' ? {} : { why: aside }),
  });
}

function whenItHurts(start: Growing, need: Need, costs: Costs, allowed: Allowed): LateWay | undefined {
  if (need.line >= HURTS) return undefined;
  const path = cheapestGrowth(start, { ...need, line: HURTS }, costs, allowed);
  if (path?.kind !== 'growth-path') return undefined;
  const months = Array.from({ length: Math.ceil(need.years * 12) + 1 }, (_, month) => month);
  const shownIn = (month: number): number =>
    path.steps.filter((step) => step.month <= month).at(-1)?.shownAfterBytes ?? start.shownBytes;
  const isAbove = (month: number): boolean =>
    need.usedBytes + (need.perYearBytes * month) / 12 > shownIn(month) * need.line;
  return { line: HURTS, fromMonth: months.find(isAbove) ?? null, path };
}

/** What is paid in the year that costs most, in the money of then. */
function dearestYear(steps: readonly GrowthStep[]): number {
  const years = new Map<number, number>();
  for (const { month, cents } of steps) {
    const year = Math.floor(month / 12);
    years.set(year, (years.get(year) ?? 0) + cents);
  }
  return Math.max(0, ...years.values());
}

const KINDS: Readonly<Record<Exclude<Way, 'new-unit' | 'buy-all-now'>, GrowthKind>> = {
  'swap-only': 'swap',
  'add-only': 'add',
  'group-only': 'group',
};

function onlyBy(way: Way, start: Growing, need: Need, costs: Costs, allowed: Allowed): GrowthPath | null {
  const pathOf = (asked: Need, more: Partial<Allowed>): GrowthPath | null => {
    const found = cheapestGrowth(start, asked, costs, { ...allowed, ...more });
    return found?.kind === 'growth-path' ? found : null;
  };
  if (way === 'buy-all-now') {
    const last = decisionsOf(need).at(-1) ?? 0;
    // One decision, now, that has to last until the end.
    const once = {
      ...need,
      usedBytes: neededAfter(need, last) * need.line,
      perYearBytes: 0,
      years: need.everyMonths / 12,
    };
    return pathOf(once, {});
  }
  if (way === 'new-unit') return allowed.newUnit ? pathOf(need, { isLeftAlone: true }) : null;
  const kind = KINDS[way];
  if (!allowed.kinds.includes(kind)) return null;
  const { newUnit: _, ...here } = allowed;
  // Bays to add them in may come with a box.
  const kinds = kind === 'swap' ? [kind] : [kind, ...allowed.kinds.filter((one) => one === 'extend')];
  const found = cheapestGrowth(start, need, costs, { ...here, kinds });
  return found?.kind === 'growth-path' ? found : null;
}

function whyNone(
  start: Growing,
  { line }: Need,
  allowed: Allowed,
  { lastsUntilMonth, mostBytes, neededBytes }: NoPath,
): string {
  const full = redundancyOf(start.pool);
  const reasons = [
    full < allowed.leastMargin
      ? `This pool can lose ${String(full)}: a floor of ${String(allowed.leastMargin)} cannot be kept by it at all.`
      : allowed.kinds.includes('swap') && full > 0 && !maySwap(start, allowed)
        ? `While a member is swapped the pool can lose ${String(full - 1)}: with a floor of ${String(allowed.leastMargin)} none is. The nearest floor is ${String(full - 1)}, or that one but for the hours a drive takes to be written.`
        : '',
    allowed.kinds.includes('swap') && full === 0
      ? 'Without protection no member is swapped under the data: it is copied off first.'
      : '',
    allowed.kinds.includes('add') && addedAtATime(start.profile, start.pool) === 0
      ? 'This family adds no single drives to such a pool.'
      : '',
  ].filter(Boolean);
  const until =
    lastsUntilMonth === null
      ? 'Nothing that is allowed keeps it below the line even once'
      : `Nothing that is allowed keeps it below the line after month ${String(lastsUntilMonth)}`;
  return `${until}: ${formatBytes(neededBytes)} usable are needed for ${String(Math.round(line * 100))} %, and the most it can hold is ${formatBytes(mostBytes)}.${reasons.map((one) => ` ${one}`).join('')}`;
}
