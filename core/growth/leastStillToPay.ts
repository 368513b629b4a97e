import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { addedAtATime } from '../pool/added';
import { membersOfBands, mostMembers, redundancyOf } from '../pool/builtPool';
import { baysToCome } from './otherMoves';
import { sizesFor, type Allowed, type Growing } from './growing';

/** What one drive of a size costs in all, bought by a certain month; never more than it costs before. */
export interface SizeCost {
  readonly bytes: number;
  /** The drive and the work of swapping it in. */
  readonly swapCents: number;
  /** A whole step of added drives: one, a pair or a group, and its work. */
  readonly addCents: number;
}

/** A pool, what it should hold, and by what. */
interface Asked {
  readonly profile: Profile;
  readonly growing: Growing;
  readonly needed: number;
  readonly costs: readonly SizeCost[];
  readonly allowed: Allowed;
}

/** Something that can be raised bit by bit at a rate, up to a most. */
interface Raise {
  readonly centsPerByte: number;
  readonly mostBytes: number;
}

/**
 * A bound from below on what it costs until a pool holds so many bytes, as its page shows them: never more than the cheapest way there, so
 * that a search guided by it finds the cheapest. Each kind of pool is relaxed: steps may be taken in parts, and each
 * for as much as it could ever give.
 *
 * @param costs what sizes cost by the month it is needed, in order of size
 * @returns hundredths in today's money; Infinity when no step that is allowed leads there
 */
export function leastStillToPay(
  growing: Growing,
  neededBytes: number,
  prices: readonly SizeCost[],
  allowed: Allowed,
): number {
  if (growing.shownBytes >= neededBytes) return 0;
  if (allowed.isLeftAlone && !growing.isInNewUnit) return Infinity;
  const { profile } = growing;
  const taken = sizesFor(growing, { sizes: prices.map(({ bytes }) => bytes) });
  const costs = prices.filter(({ bytes }) => taken.includes(bytes));
  if (costs.length === 0) return Infinity;
  const { built } = factsOf(growing.pool.scheme);
  const isOne = built === 'one' || (built === 'pairs' && profile.space.mirrorPairing === 'all-as-smallest');
  const { usableBytes, shownBytes } = growing;
  // What is won of usable is shown but for its metadata; a byte less, for it is rounded down.
  const needed = usableBytes + (neededBytes - shownBytes) / (1 - profile.space.poolMetadataShare) - 1;
  const asked = { profile, growing, needed, costs, allowed };
  if (isOne) return allToOneHeight(asked);
  return built === 'groups' || built === 'pairs' ? groupByGroup(asked) : driveByDrive(asked);
}

/** So many more steps of adding that bays, the family and what is allowed leave. */
function stepsLeft(profile: Profile, growing: Growing, allowed: Allowed): { count: number; steps: number } {
  const { pool, drives, free } = growing;
  const { kinds } = allowed;
  const count = addedAtATime(profile, pool);
  const kind = factsOf(pool.scheme).built === 'groups' ? 'group' : 'add';
  if (count === 0 || !kinds.includes(kind)) return { count, steps: 0 };
  const most = mostMembers(profile, pool.scheme) - drives.size;
  // What a box costs is left out: it is a bound from below.
  return { count, steps: Math.floor(Math.min(free.length + baysToCome(growing, allowed), most) / count) };
}

/** Every member counts as the smallest: for each number of members, all that are too small are swapped. */
function allToOneHeight({ profile, growing, needed, costs, allowed }: Asked): number {
  const { pool, drives } = growing;
  const from = pool.bands[0]?.fromBytes ?? 0;
  const sizes = membersOfBands(pool.bands).map((name) => drives.get(name)?.bytes ?? 0);
  const isMirror = pool.scheme === 'mirror';
  const data = isMirror ? 1 : pool.bands.reduce((sum, band) => sum + band.members.length - band.redundancy, 0);
  const { count, steps } = stepsLeft(profile, growing, allowed);
  const dataAStep = isMirror ? 0 : count === 2 ? 1 : count;
  const canSwap = allowed.kinds.includes('swap') && redundancyOf(pool) > 0;
  let least = Infinity;
  for (let extra = 0; extra <= (dataAStep === 0 ? 0 : steps); extra++) {
    const height = from + needed / (data + extra * dataAStep);
    const below = sizes.filter((bytes) => bytes < height).length;
    // A larger drive may cost less.
    const enough = costs.filter(({ bytes }) => bytes >= height);
    if (enough.length === 0 ? below + extra > 0 : below > 0 && !canSwap) continue;
    const leastOf = (cents: (cost: SizeCost) => number): number => Math.min(...enough.map(cents));
    least = Math.min(
      least,
      (below > 0 ? below * leastOf(({ swapCents }) => swapCents) : 0) +
        (extra > 0 ? extra * leastOf(({ addCents }) => addCents) : 0),
    );
  }
  return least;
}

/** Groups side by side: the best rate of each, filled up from the best. */
function groupByGroup({ profile, growing, needed, costs, allowed }: Asked): number {
  const { pool, drives, usableBytes } = growing;
  const largest = costs.at(-1)?.bytes ?? 0;
  const raises: Raise[] = [];
  const first = pool.bands[0];
  const data = first ? first.members.length - first.redundancy : 1;
  if (allowed.kinds.includes('swap'))
    for (const { members, toBytes } of pool.bands) {
      const sizes = members.map((name) => drives.get(name)?.bytes ?? 0).sort((a, b) => a - b);
      let rate = Infinity;
      for (const { bytes, swapCents } of costs)
        for (const [i, size] of sizes.entries()) {
          const reached = Math.min(bytes, sizes[i + 1] ?? Infinity);
          if (size < bytes && reached > toBytes)
            rate = Math.min(rate, ((i + 1) * swapCents) / (data * (reached - toBytes)));
        }
      if (largest > toBytes) raises.push({ centsPerByte: rate, mostBytes: data * (largest - toBytes) });
    }
  const { steps } = stepsLeft(profile, growing, allowed);
  const from = first?.fromBytes ?? 0;
  if (steps > 0 && largest > from)
    raises.push({
      centsPerByte: Math.min(
        ...costs.map(({ bytes, addCents }) => (bytes > from ? addCents / (data * (bytes - from)) : Infinity)),
      ),
      mostBytes: steps * data * (largest - from),
    });
  return filled(needed - usableBytes, raises);
}

/**
 * Pools cut at sizes, dedicated parity, drives of their own: what they hold is at most, for some height T, the sum of all
 * members up to T less the redundancy times T. For each height that can be one, the deficit is filled at the best rates.
 */
function driveByDrive({ profile, growing, needed, costs, allowed }: Asked): number {
  const { pool, drives } = growing;
  const system = profile.space.systemAreaBytes;
  const redundancy = redundancyOf(pool);
  // Many are of one size: each size is reckoned once.
  const counts = new Map<number, number>();
  for (const { bytes } of drives.values()) counts.set(bytes - system, (counts.get(bytes - system) ?? 0) + 1);
  const sizes = [...counts];
  const priced = costs.map((cost) => ({ ...cost, bytes: cost.bytes - system }));
  const largest = priced.at(-1)?.bytes ?? 0;
  const { steps } = stepsLeft(profile, growing, allowed);
  const canSwap = allowed.kinds.includes('swap') && redundancyOf(pool) > 0;
  const heights = redundancy === 0 ? [Infinity] : [...new Set([...counts.keys(), ...priced.map(({ bytes }) => bytes)])];
  let least = Infinity;
  for (const top of heights) {
    const upTo = (bytes: number): number => Math.min(bytes, top);
    const deficit =
      needed +
      (redundancy === 0 ? 0 : redundancy * top) -
      sizes.reduce((sum, [bytes, count]) => sum + count * upTo(bytes), 0);
    // The bands as they were built may hold less than these drives could: then there is no bound.
    if (deficit <= 0) return 0;
    const rateFrom = (own: number, of: (cost: SizeCost) => number): number =>
      priced.reduce(
        (rate, cost) => (upTo(cost.bytes) > own ? Math.min(rate, of(cost) / (upTo(cost.bytes) - own)) : rate),
        Infinity,
      );
    const raises: Raise[] = [];
    if (canSwap)
      for (const [bytes, count] of sizes)
        raises.push({
          centsPerByte: rateFrom(upTo(bytes), ({ swapCents }) => swapCents),
          mostBytes: count * Math.max(0, upTo(largest) - upTo(bytes)),
        });
    if (steps > 0)
      raises.push({ centsPerByte: rateFrom(0, ({ addCents }) => addCents), mostBytes: steps * upTo(largest) });
    least = Math.min(least, filled(deficit, raises));
  }
  return least;
}

/** What a deficit costs when it is filled at the best rates first. */
function filled(deficit: number, raises: readonly Raise[]): number {
  let left = deficit;
  let cents = 0;
  for (const { centsPerByte, mostBytes } of [...raises].sort((a, b) => a.centsPerByte - b.centsPerByte)) {
    if (left <= 0) break;
    if (centsPerByte === Infinity) break;
    const taken = Math.min(left, mostBytes);
    cents += taken * centsPerByte;
    left -= taken;
  }
  // A thousandth of a hundredth below, so that rounding never makes it more than it is.
  return left > 1 ? Infinity : Math.max(0, cents - 1e-3);
}
