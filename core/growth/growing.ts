import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { addedAtATime, addToPool } from '../pool/added';
import { heightOf, membersOfBands, redundancyOf, usableOf, type BuiltPool, type PoolDrive } from '../pool/builtPool';
import { grownBands } from '../pool/grown';
import { isRefusal } from '../value/refusal';

/** A pool on its way: as it is built by now, its members, and the bays still free. */
export interface Growing {
  readonly pool: BuiltPool;
  readonly drives: ReadonlyMap<string, PoolDrive>;
  readonly free: readonly string[];
  readonly usableBytes: number;
}

/** The ways a pool grows: a member swapped for a larger drive, a drive (of mirrors a pair) or a whole group into free bays. */
export const GROWTH_KINDS = ['swap', 'add', 'group'] as const;
export type GrowthKind = (typeof GROWTH_KINDS)[number];

/** Steps taken together: swaps one after the other, or drives added at once; which bays, drives of which size, and the pool then. */
export interface Move {
  readonly kind: GrowthKind;
  readonly bays: readonly string[];
  readonly bytes: number;
  readonly after: Growing;
}

/** The pool as it stands before the first step. */
export function growingOf(pool: BuiltPool, drives: ReadonlyMap<string, PoolDrive>, free: readonly string[]): Growing {
  return { pool, drives, free, usableBytes: usableOf(pool.bands) };
}

/** What tells two members apart as far as growing goes: size, bands, and the role of a dedicated parity drive. */
function alikeBy({ pool, drives }: Growing): Map<string, string> {
  const parity = parityOf(pool);
  const bandsOf = new Map<string, string>();
  for (const [i, { members }] of pool.bands.entries())
    for (const member of members) bandsOf.set(member, `${bandsOf.get(member) ?? ''}.${String(i)}`);
  return new Map(
    [...drives.values()].map(({ name, bytes }) => [
      name,
      `${String(bytes)}${parity.includes(name) ? 'p' : ''}${bandsOf.get(name) ?? ''}`,
    ]),
  );
}

/** The members that are dedicated parity; none in pools of other kinds. */
export function parityOf(pool: BuiltPool): readonly string[] {
  return factsOf(pool.scheme).built === 'dedicated' ? (pool.bands[0]?.members ?? []).slice(0, redundancyOf(pool)) : [];
}

/**
 * Two pools of one key grow alike: members and groups are counted, not named. Bands that share no member stand in any
 * order; of bands one above the other the order is kept.
 */
export function keyOfGrowing(growing: Growing): string {
  const { pool, drives, free } = growing;
  const { built } = factsOf(pool.scheme);
  const sizesOf = (names: readonly string[]): string =>
    names
      .map((name) => drives.get(name)?.bytes ?? 0)
      .sort((a, b) => a - b)
      .join();
  if (built === 'one' || built === 'pairs' || built === 'groups' || built === 'own')
    return `${String(free.length)}|${pool.bands
      .map(({ toBytes, members }) => `${String(toBytes)}:${sizesOf(members)}`)
      .sort()
      .join('|')}`;
  const classes = [...alikeBy(growing).values()].sort().join();
  return `${String(free.length)}|${pool.bands.map(({ toBytes }) => toBytes).join()}|${classes}`;
}

/** Members swapped for larger drives, which take their bays and names. */
export function swapped(profile: Profile, growing: Growing, bays: readonly string[], bytes: number): Growing {
  const drives = new Map(growing.drives);
  for (const bay of bays) drives.set(bay, { ...drives.get(bay), name: bay, bytes });
  const bands = grownBands(profile, growing.pool, drives);
  return { pool: { ...growing.pool, bands }, drives, free: growing.free, usableBytes: usableOf(bands) };
}

/** Drives into the first free bays; `null` where the family does not take them. */
export function withAdded(profile: Profile, growing: Growing, count: number, bytes: number): Move | null {
  const bays = growing.free.slice(0, count);
  if (bays.length < count) return null;
  const fresh = bays.map((name): PoolDrive => ({ name, bytes }));
  const made = addToPool(profile, growing.pool, growing.drives, fresh);
  if (isRefusal(made)) return null;
  return {
    kind: factsOf(growing.pool.scheme).built === 'groups' ? 'group' : 'add',
    bays,
    bytes,
    after: {
      pool: { ...growing.pool, bands: made.bands },
      drives: new Map([...growing.drives, ...fresh.map((drive) => [drive.name, drive] as const)]),
      free: growing.free.slice(count),
      usableBytes: usableOf(made.bands),
    },
  };
}

/** What may be done to a pool, and with what. */
export interface Allowed {
  readonly kinds: readonly GrowthKind[];
  /** Sizes on the price list that the family takes. */
  readonly sizes: readonly number[];
  /** No step leaves the pool able to lose fewer than so many meanwhile. */
  readonly leastMargin: number;
}

/**
 * Whether a member may be swapped: without protection none is swapped under the data; while one is out the pool can lose
 * one less, unless the family rebuilds onto a free bay with the old drive still in.
 */
export function maySwap({ rebuild }: Profile, { pool, free }: Growing, { kinds, leastMargin }: Allowed): boolean {
  if (!kinds.includes('swap')) return false;
  const full = redundancyOf(pool);
  if (full < 1) return false;
  return full - 1 >= leastMargin || (rebuild.throughFreeBay && free.length > 0 && full >= leastMargin);
}

/**
 * Every step there is from here, alike ones once. Where what a pool holds follows from its members alone, members are swapped
 * together up to a size, all that are smaller than it: with prices that never rise, one swapped before it gives
 * anything is as well swapped then.
 */
export function movesFrom(profile: Profile, growing: Growing, allowed: Allowed): Move[] {
  return [
    ...(maySwap(profile, growing, allowed) ? swapsFrom(profile, growing, allowed) : []),
    ...addsFrom(profile, growing, allowed),
  ];
}

/** Drives added to free bays, for each size that is allowed. */
export function addsFrom(profile: Profile, growing: Growing, { kinds, sizes, leastMargin }: Allowed): Move[] {
  const count = addedAtATime(profile, growing.pool);
  const kind = factsOf(growing.pool.scheme).built === 'groups' ? 'group' : 'add';
  if (count === 0 || !kinds.includes(kind) || redundancyOf(growing.pool) < leastMargin) return [];
  return sizes.flatMap((bytes) => {
    const move = withAdded(profile, growing, count, bytes);
    return move ? [move] : [];
  });
}

function swapsFrom(profile: Profile, growing: Growing, { sizes }: Allowed): Move[] {
  const { pool, drives } = growing;
  const { built } = factsOf(pool.scheme);
  const swapAll = (bays: readonly string[], bytes: number): Move => ({
    kind: 'swap',
    bays,
    bytes,
    after: swapped(profile, growing, bays, bytes),
  });
  if (built === 'one' || built === 'groups' || built === 'pairs') {
    const isOne = built === 'one' || (built === 'pairs' && profile.space.mirrorPairing === 'all-as-smallest');
    const groups = isOne ? [membersOfBands(pool.bands)] : distinctGroups(growing);
    return groups.flatMap((members) => {
      const bySize = members
        .flatMap((name) => drives.get(name) ?? [])
        .sort((a, b) => a.bytes - b.bytes || (a.name < b.name ? -1 : 1));
      const heights = [...new Set(bySize.map(({ bytes }) => bytes))];
      // All members below a height, or all there are, for drives that reach at least that height.
      return heights.flatMap((_, i) => {
        const below = bySize.filter(({ bytes }) => bytes <= (heights[i] as number));
        return sizes
          .filter((bytes) => bytes > (heights[i] as number))
          .map((bytes) =>
            swapAll(
              below.map(({ name }) => name),
              bytes,
            ),
          );
      });
    });
  }
  const seen = new Set<string>();
  return [...alikeBy(growing)].flatMap(([name, alike]) => {
    if (seen.has(alike)) return [];
    seen.add(alike);
    const drive = drives.get(name) as PoolDrive;
    const height = heightOf(drive, pool, profile);
    return sizes
      .filter((bytes) => bytes > drive.bytes && heightOf({ bytes }, pool, profile) > height)
      .map((bytes) => swapAll([name], bytes));
  });
}

/** The members of each group, groups of the same sizes once. */
function distinctGroups({ pool, drives }: Growing): (readonly string[])[] {
  const seen = new Map<string, readonly string[]>();
  for (const { members } of pool.bands) {
    const key = members
      .map((name) => drives.get(name)?.bytes ?? 0)
      .sort((a, b) => a - b)
      .join();
    if (!seen.has(key)) seen.set(key, members);
  }
  return [...seen.values()];
}
