import type { Profile } from '../platform/profile';
import { addedAtATime } from '../pool/added';
import {
  addsFrom,
  keyOfGrowing,
  maySwap,
  movesFrom,
  swapped,
  type Allowed,
  type GrowthKind,
  type Growing,
  type Move,
} from './growing';
import { leastStillToPay, type SizeCost } from './leastStillToPay';
import { minHeap } from './minHeap';
import { centsIn, inTodaysCents, pricesBySize, type Costs } from './priceList';

/** What has to fit, and until when. */
export interface Need {
  readonly usedBytes: number;
  readonly perYearBytes: number;
  /** The share of the usable space that may be used, above 0 to 1. */
  readonly line: number;
  readonly years: number;
  /** Months from one decision to the next; what is bought at one has to last until the next. */
  readonly everyMonths: number;
}

export interface GrowthStep {
  readonly month: number;
  readonly kind: GrowthKind;
  readonly bays: readonly string[];
  /** Of each drive it buys. */
  readonly bytes: number;
  /** The drives of this step, and its work, in the money of that month. */
  readonly cents: number;
  readonly usableAfterBytes: number;
}

export interface GrowthPath {
  readonly kind: 'growth-path';
  /** In today's money. */
  readonly totalCents: number;
  readonly steps: readonly GrowthStep[];
}

/** No way through: how far it goes at best. */
export interface NoPath {
  readonly kind: 'no-path';
  /** The last month whose decision can still be met; `null` when not even the first can. */
  readonly lastsUntilMonth: number | null;
  /** The most that can be reached where it ends, usable bytes, and what would be needed. */
  readonly mostBytes: number;
  readonly neededBytes: number;
}

/** So many states are looked at, at most; beyond, whoever asked is told that it was given up. */
const MOST_STATES = 400_000;

interface Node {
  readonly growing: Growing;
  /** Which decision is being taken. */
  readonly at: number;
  readonly cents: number;
  readonly came: { readonly from: Node; readonly move: Move | null } | null;
}

/** The months at which is decided: 0, every so many, as long as they lie within the years. */
export function decisionsOf({ years, everyMonths }: Need): number[] {
  return Array.from({ length: Math.ceil((years * 12) / everyMonths) }, (_, i) => i * everyMonths);
}

/** The usable bytes there must be after the steps of a month: what will be used when the next decision comes, below the line. */
export function neededAfter({ usedBytes, perYearBytes, line, everyMonths }: Need, month: number): number {
  return (usedBytes + (perYearBytes * (month + everyMonths)) / 12) / line;
}

/**
 * The cheapest sequence of steps by which a built pool never crosses the line: exact, over everything that is allowed, at
 * prices that never rise. A best-first search (A*, Hart, Nilsson and Raphael 1968) over built pools, alike ones once, guided
 * by a bound that is never above the truth.
 *
 * @returns the path; or how far any gets; or `null` when it was given up, with more states than may be looked at
 */
export function cheapestGrowth(
  profile: Profile,
  start: Growing,
  need: Need,
  costs: Costs,
  allowed: Allowed,
): GrowthPath | NoPath | null {
  const months = decisionsOf(need);
  const needed = months.map((month) => neededAfter(need, month));
  const list = pricesBySize(costs.prices).filter(({ bytes }) => allowed.sizes.includes(bytes));
  const costOf = (month: number, bytes: number, count: number): number =>
    count * centsIn(list.find((one) => one.bytes === bytes)?.cents ?? 0, month, costs.declinePerYear) +
    costs.labourCents;
  const todays = (month: number, bytes: number, count: number): number =>
    inTodaysCents(costOf(month, bytes, count), month, costs.discountPerYear);
  const added = (bytes: number, month: number): SizeCost => ({
    bytes,
    swapCents: todays(month, bytes, 1),
    addCents: todays(month, bytes, addedHere),
  });
  const addedHere = Math.max(1, addedAtATime(profile, start.pool));
  const byMonth = months.map((month) => list.map(({ bytes }) => added(bytes, month)));

  const bounds = new Map<string, number>();
  /** The bound over the decision at hand and the last one. */
  const boundOf = (growing: Growing, at: number, key: string): number => {
    const name = `${String(at)} ${key}`;
    const known = bounds.get(name);
    if (known !== undefined) return known;
    const last = months.length - 1;
    const bound = [...new Set([at, Math.floor((at + last) / 2), last])].reduce(
      (most, one) =>
        Math.max(most, leastStillToPay(profile, growing, needed[one] as number, byMonth[one] as SizeCost[], allowed)),
      0,
    );
    bounds.set(name, bound);
    return bound;
  };

  const best = new Map<string, number>();
  const queue = minHeap<Node>();
  const meet = (node: Node): void => {
    const key = keyOfGrowing(node.growing);
    const name = `${String(node.at)} ${key}`;
    if (node.cents >= (best.get(name) ?? Infinity)) return;
    const bound = boundOf(node.growing, node.at, key);
    if (bound === Infinity) return;
    best.set(name, node.cents);
    queue.push(node, node.cents + bound);
  };
  meet({ growing: start, at: 0, cents: 0, came: null });
  for (let looked = 0; ; looked++) {
    const node = queue.pop();
    if (!node) return howFar(profile, start, months, needed, allowed);
    const key = keyOfGrowing(node.growing);
    if (node.cents > (best.get(`${String(node.at)} ${key}`) ?? Infinity)) continue;
    if (looked > MOST_STATES) return null;
    const month = months[node.at] as number;
    if (node.growing.usableBytes >= (needed[node.at] as number)) {
      if (node.at === months.length - 1) return pathTo(profile, node, months, costOf);
      meet({ ...node, at: node.at + 1, came: { from: node, move: null } });
    }
    for (const move of movesFrom(profile, node.growing, allowed)) {
      const cents = node.cents + centsOfMove(move, (count) => todays(month, move.bytes, count));
      meet({ growing: move.after, at: node.at, cents, came: { from: node, move } });
    }
  }
}

/** Of two ways that cost the same, the one with fewer swaps: while a drive is swapped the pool can lose one less. */
const FOR_A_SWAP = 1e-4;

/** Swaps are paid one by one, each with its work; what is added at once is one step. */
function centsOfMove({ kind, bays }: Move, step: (drives: number) => number): number {
  return kind === 'swap' ? bays.length * (step(1) + FOR_A_SWAP) : step(bays.length);
}

function pathTo(
  profile: Profile,
  end: Node,
  months: readonly number[],
  costOf: (month: number, bytes: number, count: number) => number,
): GrowthPath {
  const steps: GrowthStep[] = [];
  for (let node: Node = end; node.came; node = node.came.from) {
    const { from, move } = node.came;
    const month = months[from.at] as number;
    if (move)
      steps.unshift(...stepsOf(profile, from.growing, move, month, (count) => costOf(month, move.bytes, count)));
  }
  return Object.freeze({ kind: 'growth-path', totalCents: Math.round(end.cents), steps: Object.freeze(steps) });
}

/** The steps of a move one by one, each with what the pool holds after it. */
function stepsOf(
  profile: Profile,
  before: Growing,
  { kind, bays, bytes, after }: Move,
  month: number,
  cost: (drives: number) => number,
): GrowthStep[] {
  if (kind !== 'swap')
    return [{ month, kind, bays, bytes, cents: cost(bays.length), usableAfterBytes: after.usableBytes }];
  return bays.map((bay, i): GrowthStep => ({
    month,
    kind,
    bays: [bay],
    bytes,
    cents: cost(1),
    usableAfterBytes: swapped(profile, before, bays.slice(0, i + 1), bytes).usableBytes,
  }));
}

/** How far anything that is allowed gets: everything swapped for the largest and every bay filled. */
function howFar(
  profile: Profile,
  start: Growing,
  months: readonly number[],
  needed: readonly number[],
  allowed: Allowed,
): NoPath {
  let now = start;
  const largest = Math.max(0, ...allowed.sizes);
  if (maySwap(profile, start, allowed))
    for (const { name, bytes } of start.drives.values())
      if (bytes < largest) now = swapped(profile, now, [name], largest);
  for (
    let next: Growing | undefined = now;
    next;
    next = addsFrom(profile, now, { ...allowed, sizes: [largest] })[0]?.after
  )
    now = next;
  const met = needed.filter((bytes) => bytes <= now.usableBytes).length;
  return Object.freeze({
    kind: 'no-path',
    lastsUntilMonth: met === 0 ? null : (months[met - 1] as number),
    mostBytes: now.usableBytes,
    neededBytes: needed[met] as number,
  });
}
