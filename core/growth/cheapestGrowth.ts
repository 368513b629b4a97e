import type { Scheme } from '../layout/scheme';
import { addedAtATime } from '../pool/added';
import { redundancyOf } from '../pool/builtPool';
import {
  addsFrom,
  keyOfGrowing,
  maySwap,
  movesFrom,
  sizesFor,
  swapped,
  type Allowed,
  type GrowthKind,
  type Growing,
  type Move,
} from './growing';
import { leastStillToPay, type SizeCost } from './leastStillToPay';
import { minHeap } from './minHeap';
import { intoNewUnit, leastForBytes, leastForNewUnit } from './intoNewUnit';
import { conversionsFrom, extensionsFrom, mayConvert } from './otherMoves';
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
  readonly kind: GrowthKind | 'new-unit';
  /** Its bays are those of the unit that is yet to be bought. */
  readonly isInNewUnit?: true;
  /** The level it is changed to. */
  readonly to?: Scheme;
  /** The bays it fills; of a box, those it brings. */
  readonly bays: readonly string[];
  /** Of each drive it buys; 0 where it buys none. */
  readonly bytes: number;
  /** The drives of this step, and its work, in the money of that month. */
  readonly cents: number;
  readonly usableAfterBytes: number;
  /** What of that the unit's page then shows. */
  readonly shownAfterBytes: number;
  /** How many more may fail once it is done. */
  readonly marginAfter: number;
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
  /** The most that can be reached where it ends, bytes as the unit's page shows them, and what would be needed. */
  readonly mostBytes: number;
  readonly neededBytes: number;
}

/** There is room enough, and not the money for it in some year. */
export interface OverBudget {
  readonly kind: 'over-budget';
}

/** So many states are looked at, at most: a thousand million bytes of pools. Beyond, whoever asked is told that it was given up. */
const MOST_STATES = 20_000;
/** After so many it is said how far it has come. */
const SAID_EVERY = 256;

interface Node {
  readonly growing: Growing;
  /** Which decision is being taken. */
  readonly at: number;
  /** In today's money. */
  readonly cents: number;
  /** Of the budget of the year at hand, in its own money; 0 throughout where there is none. */
  readonly spent: number;
  readonly came: { readonly from: Node; readonly move: Move | null } | null;
}

/** The months at which is decided: 0, every so many, as long as they lie within the years. */
export function decisionsOf({ years, everyMonths }: Need): number[] {
  return Array.from({ length: Math.ceil((years * 12) / everyMonths) }, (_, i) => i * everyMonths);
}

/** The bytes its page must show after the steps of a month: what will be used when the next decision comes, below the line. */
export function neededAfter({ usedBytes, perYearBytes, line, everyMonths }: Need, month: number): number {
  return (usedBytes + (perYearBytes * (month + everyMonths)) / 12) / line;
}

/**
 * The cheapest sequence of steps by which a built pool never crosses the line: exact, over everything that is allowed, at
 * prices that never rise. A best-first search (A*, Hart, Nilsson and Raphael 1968) over built pools, alike ones once, guided
 * by a bound that is never above the truth.
 *
 * @param onProgress hears now and then how far into the years it has come, as a share of its decisions
 * @returns the path; or how far any gets; or `null` when it was given up, with more states than may be looked at
 */
export function cheapestGrowth(
  start: Growing,
  need: Need,
  costs: Costs,
  wished: Allowed,
  onProgress?: (share: number) => void,
): GrowthPath | NoPath | OverBudget | null {
  const { budgetCentsPerYear: budget } = costs;
  const { newUnit, extension } = wished;
  const begun = newUnit ? intoNewUnit(newUnit, wished.sizes, wished.leastMargin) : [];
  // Before another level is made of them, and where money is spread, members are worth swapping that give nothing yet.
  const isEachTried = [start, ...begun.map(({ after }) => after)].some((one) => mayConvert(one, wished));
  const allowed: Allowed = { ...wished, isEachTried, isOneByOne: budget !== undefined || isEachTried };
  const months = decisionsOf(need);
  const needed = months.map((month) => neededAfter(need, month));
  const list = pricesBySize(costs.prices).filter(({ bytes }) => allowed.sizes.includes(bytes));
  /** What each step of a move costs in the money of its month. */
  const costOf = (month: number, { kind, bays, bytes }: Pick<Move, 'kind' | 'bays' | 'bytes'>): number =>
    (kind === 'swap' ? 1 : bays.length) *
      centsIn(list.find((one) => one.bytes === bytes)?.cents ?? 0, month, costs.declinePerYear) +
    costs.labourCents +
    (kind === 'new-unit' ? (newUnit?.cents ?? 0) : kind === 'extend' ? (extension?.cents ?? 0) : 0);
  const todays = (cents: number, month: number): number => inTodaysCents(cents, month, costs.discountPerYear);
  const prices = new Map<number, readonly SizeCost[][]>();
  /** What drives cost by then; of two families, or two levels, what is added at a time differs. */
  const pricesFor = ({ profile, pool }: Growing): readonly SizeCost[][] => {
    const count = Math.max(1, addedAtATime(profile, pool));
    const bays = Array.from({ length: count }, () => '');
    const made =
      prices.get(count) ??
      months.map((month) =>
        list.map(({ bytes }) => ({
          bytes,
          swapCents: todays(costOf(month, { kind: 'swap', bays, bytes }), month),
          addCents: todays(costOf(month, { kind: 'add', bays, bytes }), month),
        })),
      );
    prices.set(count, made);
    return made;
  };

  const bought = { ...costs, prices: list };
  const rawOf = ({ drives }: Growing): number => [...drives.values()].reduce((sum, { bytes }) => sum + bytes, 0);
  /** What is still to pay until a decision, at its prices: here, at another level, or in the new unit, whichever is least. */
  const leastUntil = (growing: Growing, at: number): number => {
    const [wanted, month] = [needed[at] as number, months[at] as number];
    let least = leastStillToPay(growing, wanted, pricesFor(growing)[at] as SizeCost[], allowed);
    if (least > 0 && mayConvert(growing, allowed) && !(allowed.isLeftAlone && !growing.isInNewUnit))
      least = Math.min(least, Math.max(0, leastForBytes(wanted - rawOf(growing), month, bought)));
    if (least > 0 && !growing.isInNewUnit && newUnit && begun.length > 0)
      least = Math.min(least, leastForNewUnit(newUnit, wanted, month, bought));
    return least;
  };
  const falls = new Map<readonly SizeCost[][], readonly SizeCost[][]>();
  /** By how much what sizes cost falls from each decision to the next. */
  const fallsOf = (by: readonly SizeCost[][]): readonly SizeCost[][] => {
    const made =
      falls.get(by) ??
      by.slice(0, -1).map((now, at) =>
        now.map(({ bytes, swapCents, addCents }, i) => {
          const next = by[at + 1]?.[i] as SizeCost;
          return { bytes, swapCents: swapCents - next.swapCents, addCents: addCents - next.addCents };
        }),
      );
    falls.set(by, made);
    return made;
  };
  const centsFor = (cents: number, at: number): number => centsIn(cents, months[at] as number, costs.declinePerYear);
  /** The least by which a byte on a drive falls from a decision to the next. */
  const byteFalls = months
    .slice(1)
    .map((_, at) =>
      Math.min(...list.map(({ bytes, cents }) => (centsFor(cents, at) - centsFor(cents, at + 1)) / bytes)),
    );
  /** The same of what falls after a decision alone. */
  const leastOfFall = (growing: Growing, at: number): number => {
    const wanted = needed[at] as number;
    const least = leastStillToPay(growing, wanted, fallsOf(pricesFor(growing))[at] as SizeCost[], allowed);
    const isToMove = !growing.isInNewUnit && begun.length > 0;
    if (least === 0 || !(isToMove || mayConvert(growing, allowed))) return least;
    const bytes = isToMove ? wanted : Math.max(0, wanted - rawOf(growing));
    return Math.min(least, bytes * (byteFalls[at] as number));
  };
  /**
   * What is still to pay in all. What a step costs at its decision is what it costs at the last, and by how much it falls from
   * each decision to the next until then: so all that is bought by a decision pays that fall, and is at least what is needed by
   * then (summation by parts). Where money is worth less later, sums are rounded, and only steps here fall by whole ones.
   */
  const leastInAll = (growing: Growing, at: number): number | null => {
    const isOnlyHere = (growing.isInNewUnit === true || begun.length === 0) && !mayConvert(growing, allowed);
    if (!isOnlyHere && costs.discountPerYear > 0) return null;
    const last = months.length - 1;
    let least = leastUntil(growing, last);
    for (let k = at; k < last && least < Infinity; k++) least += leastOfFall(growing, k);
    return least;
  };
  type ByWhen = readonly (readonly [at: number, cents: number])[];
  const bounds = new Map<string, ByWhen>();
  /** What is at least still to pay until the end; where money is limited, also until the decision at hand and one in the middle. */
  const boundsOf = (growing: Growing, at: number, key: string): ByWhen => {
    const name = `${String(at)} ${key}`;
    const known = bounds.get(name);
    if (known !== undefined) return known;
    const last = months.length - 1;
    const inAll = leastInAll(growing, at);
    const made: ByWhen = [
      ...(inAll === null || budget !== undefined
        ? [...new Set([at, Math.floor((at + last) / 2), last])].map((one) => [one, leastUntil(growing, one)] as const)
        : []),
      ...(inAll === null ? [] : [[last, inAll] as const]),
    ];
    bounds.set(name, made);
    return made;
  };
  // A pool that is left alone is the same at the next decision: what may be done to it is found out once.
  const keys = new WeakMap<Growing, string>();
  const keyOf = (growing: Growing): string => {
    const key = keys.get(growing) ?? keyOfGrowing(growing);
    keys.set(growing, key);
    return key;
  };
  const moves = new WeakMap<Growing, readonly Move[]>();
  const movesOf = (growing: Growing, usedBytes: number): readonly Move[] => {
    if (allowed.isLeftAlone && !growing.isInNewUnit) return begun;
    const made = moves.get(growing) ?? [
      ...movesFrom(growing, allowed),
      ...extensionsFrom(growing, allowed),
      ...(growing.isInNewUnit ? [] : begun),
    ];
    // Else a pool is moved on from at one decision only, the first it does not do for.
    if (budget !== undefined || isEachTried) moves.set(growing, made);
    return mayConvert(growing, allowed) ? [...made, ...conversionsFrom(growing, allowed, usedBytes)] : made;
  };
  const yearOf = (at: number): number => Math.floor((months[at] as number) / 12);

  // Of the same pool at the same decision: where money is limited, who has spent less this year may yet be the better one.
  const best = new Map<string, Node[]>();
  const queue = minHeap<Node>();
  const meet = (node: Node): void => {
    const key = keyOf(node.growing);
    const name = `${String(node.at)} ${key}`;
    const met = best.get(name) ?? [];
    if (met.some(({ cents, spent }) => cents <= node.cents && spent <= node.spent)) return;
    const least = boundsOf(node.growing, node.at, key);
    if (least.some(([, cents]) => cents === Infinity)) return;
    if (
      budget !== undefined &&
      least.some(([one, cents]) => cents > budget * (1 + yearOf(one) - yearOf(node.at)) - node.spent)
    )
      return;
    best.set(name, [...met.filter(({ cents, spent }) => cents < node.cents || spent < node.spent), node]);
    queue.push(node, node.cents + Math.max(...least.map(([, cents]) => cents)));
  };
  meet({ growing: start, at: 0, cents: 0, spent: 0, came: null });
  let furthest = 0;
  for (let looked = 0; ; looked++) {
    if (looked % SAID_EVERY === 0) onProgress?.(furthest / months.length);
    const node = queue.pop();
    if (!node) return howFar(start, begun, months, needed, allowed);
    if (!best.get(`${String(node.at)} ${keyOf(node.growing)}`)?.includes(node)) continue;
    if (looked > MOST_STATES) return null;
    furthest = Math.max(furthest, node.at);
    const month = months[node.at] as number;
    if (node.growing.shownBytes >= (needed[node.at] as number)) {
      if (node.at === months.length - 1) return pathTo(node, months, costOf);
      const at = node.at + 1;
      meet({ ...node, at, spent: yearOf(at) === yearOf(node.at) ? node.spent : 0, came: { from: node, move: null } });
      // What is bought beyond the need is bought as well at the next decision, and no dearer, unless money is spread; but a
      // level may be changed only as long as what is used fits.
      if (budget === undefined && !isEachTried) continue;
    }
    const used = need.usedBytes + (need.perYearBytes * month) / 12;
    for (const move of movesOf(node.growing, used)) {
      const each = costOf(month, move);
      const steps = move.kind === 'swap' ? move.bays.length : 1;
      const spent = budget === undefined ? 0 : node.spent + steps * each;
      const cents = node.cents + steps * (todays(each, month) + (move.kind === 'swap' ? FOR_A_SWAP : 0));
      meet({ growing: move.after, at: node.at, cents, spent, came: { from: node, move } });
    }
  }
}

/** Of two ways that cost the same, the one with fewer swaps: while a drive is swapped the pool can lose one less. */
const FOR_A_SWAP = 1e-4;

function pathTo(end: Node, months: readonly number[], costOf: (month: number, move: Move) => number): GrowthPath {
  const steps: GrowthStep[] = [];
  for (let node: Node = end; node.came; node = node.came.from) {
    const { from, move } = node.came;
    const month = months[from.at] as number;
    if (move) steps.unshift(...stepsOf(from.growing, move, month, costOf(month, move)));
  }
  return Object.freeze({ kind: 'growth-path', totalCents: Math.round(end.cents), steps: Object.freeze(steps) });
}

/** The steps of a move one by one, each with what the pool holds after it. */
function stepsOf(before: Growing, { kind, bays, bytes, to, after }: Move, month: number, cents: number): GrowthStep[] {
  const step = (of: readonly string[], { pool, usableBytes, shownBytes, isInNewUnit }: Growing): GrowthStep => ({
    month,
    kind,
    ...(isInNewUnit ? { isInNewUnit } : {}),
    ...(to === undefined ? {} : { to }),
    bays: of,
    bytes,
    cents,
    usableAfterBytes: usableBytes,
    shownAfterBytes: shownBytes,
    marginAfter: redundancyOf(pool),
  });
  if (kind !== 'swap') return [step(bays, after)];
  return bays.map((bay, i) => step([bay], swapped(before, bays.slice(0, i + 1), bytes)));
}

/** How far anything that is allowed gets, whatever it costs: everything swapped for the largest and every bay filled. */
function howFar(
  start: Growing,
  begun: readonly Move[],
  months: readonly number[],
  needed: readonly number[],
  allowed: Allowed,
): NoPath | OverBudget {
  const full = [
    ...(allowed.isLeftAlone
      ? [start]
      : [start, ...conversionsFrom(start, allowed, 0).map(({ after }) => after)].map((one) => filledUp(one, allowed))),
    ...begun.map(({ after }) => filledUp(after, allowed)),
  ];
  const converted = full.flatMap((one) =>
    allowed.isLeftAlone && !one.isInNewUnit ? [] : conversionsFrom(one, allowed, 0),
  );
  const mostBytes = Math.max(...[...full, ...converted.map(({ after }) => after)].map(({ shownBytes }) => shownBytes));
  const met = needed.filter((bytes) => bytes <= mostBytes).length;
  if (met === needed.length) return Object.freeze({ kind: 'over-budget' });
  return Object.freeze({
    kind: 'no-path',
    lastsUntilMonth: met === 0 ? null : (months[met - 1] as number),
    mostBytes,
    neededBytes: needed[met] as number,
  });
}

/** The same with every member swapped for the largest, every box there can be, and every bay filled, as far as that is allowed. */
function filledUp(start: Growing, allowed: Allowed): Growing {
  const largest = Math.max(0, ...sizesFor(start, allowed));
  let now = start;
  for (let next = extensionsFrom(now, allowed)[0]; next; next = extensionsFrom(now, allowed)[0]) now = next.after;
  if (maySwap(start, allowed))
    for (const { name, bytes } of start.drives.values()) if (bytes < largest) now = swapped(now, [name], largest);
  for (let next: Growing | undefined = now; next; next = addsFrom(now, { ...allowed, sizes: [largest] })[0]?.after)
    now = next;
  return now;
}
