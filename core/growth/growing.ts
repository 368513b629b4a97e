import { factsOf, type Scheme } from '../layout/scheme';
import { spaceAfter, spaceOf } from '../layout/spaceOf';
import type { Profile } from '../platform/profile';
import { addedAtATime, addToPool } from '../pool/added';
import { heightOf, membersOfBands, redundancyOf, usableOf, type BuiltPool, type PoolDrive } from '../pool/builtPool';
import { largestGuarded, parityOf } from '../pool/dedicatedParity';
import { grownBands } from '../pool/grown';
import { enclosuresOf } from '../unit/enclosures';
import type { Enclosure } from '../unit/state';
import { estimateRebuild } from '../rebuild/estimateRebuild';
import { isRefusal } from '../value/refusal';
import type { NewUnit } from './newUnit';

/** A pool on its way: of which family, as it is built by now, its members, and the bays still free. */
export interface Growing {
  readonly profile: Profile;
  readonly pool: BuiltPool;
  readonly drives: ReadonlyMap<string, PoolDrive>;
  readonly free: readonly string[];
  /** The boxes its unit consists of: the head, and extensions behind it. */
  readonly boxes: readonly Enclosure[];
  readonly usableBytes: number;
  /** What of it the unit's page shows: what is used is held against that. */
  readonly shownBytes: number;
  /** It stands in a unit that is yet to be bought. */
  readonly isInNewUnit?: true;
}

/**
 * The ways a pool grows: a member swapped for a larger drive, a drive (of mirrors a pair) or a whole group into free bays, one more
 * box for more bays, another level with the data kept.
 */
export const GROWTH_KINDS = ['swap', 'add', 'group', 'extend', 'convert'] as const;
export type GrowthKind = (typeof GROWTH_KINDS)[number];

/**
 * Steps taken together: swaps one after the other, drives added at once, a box, another level with the drives it takes, or a
 * new unit with its first drives; which bays, drives of which size (0 where none is bought), and the pool then.
 */
export interface Move {
  readonly kind: GrowthKind | 'new-unit';
  readonly bays: readonly string[];
  readonly bytes: number;
  /** The level it is changed to. */
  readonly to?: Scheme;
  readonly after: Growing;
}

/** The pool as it stands before the first step. */
export function growingOf(
  profile: Profile,
  pool: BuiltPool,
  drives: ReadonlyMap<string, PoolDrive>,
  free: readonly string[],
  boxes: readonly Enclosure[] = enclosuresOf(profile, drives.size + free.length, [...drives.keys(), ...free]),
): Growing {
  const { usableBytes, shownBytes } = spaceOf(usableOf(pool.bands), profile);
  return { profile, pool, drives, free, boxes, usableBytes, shownBytes };
}

/** The same with other bands, members and free bays. */
function grownTo(before: Growing, bands: BuiltPool['bands'], now: Pick<Growing, 'drives' | 'free'>): Growing {
  const { usableBytes, shownBytes } = spaceAfter(
    { ...before, fileSystemReserveBytes: 0 },
    usableOf(bands),
    before.profile,
  );
  return { ...before, ...now, pool: { ...before.pool, bands }, usableBytes, shownBytes };
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

/**
 * Two pools of one key grow alike: members and groups are counted, not named. Bands that share no member stand in any
 * order; of bands one above the other the order is kept.
 */
export function keyOfGrowing(growing: Growing): string {
  const { pool, drives, free, isInNewUnit } = growing;
  const { built } = factsOf(pool.scheme);
  const where = `${isInNewUnit ? 'n' : ''}${pool.scheme}${String(free.length)}`;
  const sizesOf = (names: readonly string[]): string =>
    names
      .map((name) => drives.get(name)?.bytes ?? 0)
      .sort((a, b) => a - b)
      .join();
  if (built === 'one' || built === 'pairs' || built === 'groups' || built === 'own')
    return `${where}|${pool.bands
      .map(({ toBytes, members }) => `${String(toBytes)}:${sizesOf(members)}`)
      .sort()
      .join('|')}`;
  const classes = [...alikeBy(growing).values()].sort().join();
  return `${where}|${pool.bands.map(({ toBytes }) => toBytes).join()}|${classes}`;
}

/** Members swapped for larger drives, which take their bays and names. */
export function swapped(growing: Growing, bays: readonly string[], bytes: number): Growing {
  const drives = new Map(growing.drives);
  for (const bay of bays) drives.set(bay, { ...drives.get(bay), name: bay, bytes });
  return grownTo(growing, grownBands(growing.profile, growing.pool, drives), { drives, free: growing.free });
}

/** Drives into the first free bays; `null` where the family does not take them. */
export function withAdded(growing: Growing, count: number, bytes: number): Move | null {
  const bays = growing.free.slice(0, count);
  if (bays.length < count) return null;
  const fresh = bays.map((name): PoolDrive => ({ name, bytes }));
  const made = addToPool(growing.profile, growing.pool, growing.drives, fresh);
  if (isRefusal(made)) return null;
  return {
    kind: factsOf(growing.pool.scheme).built === 'groups' ? 'group' : 'add',
    bays,
    bytes,
    after: grownTo(growing, made.bands, {
      drives: new Map([...growing.drives, ...fresh.map((drive) => [drive.name, drive] as const)]),
      free: growing.free.slice(count),
    }),
  };
}

/** What may be done to a pool, and with what. */
export interface Allowed {
  readonly kinds: readonly GrowthKind[];
  /** Sizes on the price list. */
  readonly sizes: readonly number[];
  /** No step leaves the pool able to lose fewer than so many meanwhile. */
  readonly leastMargin: number;
  /** So many hours a swap may take it below that; left out means none. */
  readonly briefHours?: number;
  /** A unit that might be bought instead. */
  readonly newUnit?: NewUnit;
  /** A box that may be hung on, and what it costs. */
  readonly extension?: { readonly bays: number; readonly cents: number };
  /** The pool as it stands is left alone: there is only the new unit. */
  readonly isLeftAlone?: true;
  /** Members are swapped one by one, also before they give anything: money that is limited in a year is spread so. */
  readonly isOneByOne?: boolean;
  /** Of members that differ each is tried, not only the smallest: another level may be made of them. */
  readonly isEachTried?: boolean;
}

/** The sizes this family takes, of those there are. */
export function sizesFor(
  { profile }: { readonly profile: Profile },
  { sizes }: Pick<Allowed, 'sizes'>,
): readonly number[] {
  return sizes.filter((bytes) => bytes <= (profile.bays.largestDriveBytes ?? Infinity));
}

/**
 * Whether a member may be swapped: without protection none is swapped under the data; while one is out the pool can lose
 * one less, unless the family rebuilds onto a free bay with the old drive still in.
 */
export function maySwap(growing: Growing, allowed: Allowed): boolean {
  const { kinds, leastMargin, briefHours = 0 } = allowed;
  const full = redundancyOf(growing.pool);
  if (!kinds.includes('swap') || full < 1) return false;
  return isFloorKept(growing, allowed) || (briefHours > 0 && full >= leastMargin);
}

/** Whether the floor is kept also while a member is out. */
function isFloorKept({ profile: { rebuild }, pool, free }: Growing, { leastMargin }: Allowed): boolean {
  const full = redundancyOf(pool);
  return full - 1 >= leastMargin || (rebuild.throughFreeBay && free.length > 0 && full >= leastMargin);
}

/** Whether a drive in this bay is written soon enough for the floor to be left meanwhile: the long end of the span counts, full. */
function isBrief({ profile, pool, drives }: Growing, bay: string, bytes: number, hours: number): boolean {
  const all = new Map(
    [...drives.values()].map(({ name, bytes: now, media = 'hard-disk' }) => [
      name,
      { bay: name, bytes: name === bay ? bytes : now, media },
    ]),
  );
  return estimateRebuild(pool.bands, all, bay, profile.rebuild, 1).high <= hours * 3600;
}

/**
 * Every step there is from here, alike ones once. Where what a pool holds follows from its members alone, members are swapped
 * together up to a size, all that are smaller than it: with prices that never rise, one swapped before it gives
 * anything is as well swapped then.
 */
export function movesFrom(growing: Growing, allowed: Allowed): Move[] {
  const swaps = maySwap(growing, allowed) ? swapsFrom(growing, allowed) : [];
  const { briefHours = 0 } = allowed;
  return [
    ...(isFloorKept(growing, allowed)
      ? swaps
      : swaps.filter(({ bays, bytes }) => bays.every((bay) => isBrief(growing, bay, bytes, briefHours)))),
    ...addsFrom(growing, allowed),
  ];
}

/** Drives added to free bays, for each size that is allowed. */
export function addsFrom(growing: Growing, allowed: Allowed): Move[] {
  const { kinds, leastMargin } = allowed;
  const count = addedAtATime(growing.profile, growing.pool);
  const kind = factsOf(growing.pool.scheme).built === 'groups' ? 'group' : 'add';
  if (count === 0 || !kinds.includes(kind) || redundancyOf(growing.pool) < leastMargin) return [];
  return sizesFor(growing, allowed).flatMap((bytes) => {
    const move = withAdded(growing, count, bytes);
    return move ? [move] : [];
  });
}

function swapsFrom(growing: Growing, allowed: Allowed): Move[] {
  const { profile, pool, drives } = growing;
  const sizes = sizesFor(growing, allowed);
  const { built } = factsOf(pool.scheme);
  const swapAll = (bays: readonly string[], bytes: number): Move => ({
    kind: 'swap',
    bays,
    bytes,
    after: swapped(growing, bays, bytes),
  });
  const isByMembers = built === 'one' || built === 'groups' || built === 'pairs';
  if (isByMembers && !allowed.isOneByOne) {
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
  const guarded = (name: string): number => largestGuarded(pool, (one) => drives.get(one)?.bytes, name);
  return smallestFirst(growing, allowed).flatMap((name) => {
    const drive = drives.get(name) as PoolDrive;
    const height = heightOf(drive, pool, profile);
    return sizes
      .filter((bytes) => bytes > drive.bytes && bytes <= guarded(name) && heightOf({ bytes }, pool, profile) > height)
      .map((bytes) => swapAll([name], bytes));
  });
}

/**
 * The members worth swapping, alike ones once. A larger drive in place of the smallest of those that count alike leaves a
 * pool with members at least as large, one for one, as in place of any other of them, and at the same cost: what can come of
 * the other can come of it. Above the highest band that does not hold, for there new bands are cut at the heights there are;
 * nor where bands are cut anew by another level, or where hours count.
 */
function smallestFirst(growing: Growing, allowed: Allowed): string[] {
  const { pool, drives } = growing;
  const alike = alikeBy(growing);
  const { built } = factsOf(pool.scheme);
  const parity = parityOf(pool);
  const top = Math.max(...pool.bands.map(({ toBytes }) => toBytes));
  const bandOf = new Map(pool.bands.flatMap(({ members }, i) => members.map((name) => [name, String(i)] as const)));
  const isEach = allowed.isEachTried === true || !isFloorKept(growing, allowed);
  const lanes: Readonly<Record<typeof built, (drive: PoolDrive) => string | undefined>> = {
    one: () => 'all',
    own: ({ name }) => alike.get(name),
    pairs: ({ name }) => bandOf.get(name),
    groups: ({ name }) => bandOf.get(name),
    dedicated: ({ name }) => (parity.includes(name) ? 'parity' : 'data'),
    cut: ({ name, bytes }) => (bytes > top ? alike.get(name) : 'below'),
  };
  const firsts = new Map<string, PoolDrive>();
  for (const drive of drives.values()) {
    const lane = (isEach ? alike.get(drive.name) : lanes[built](drive)) ?? '';
    const first = firsts.get(lane);
    if (!first || drive.bytes < first.bytes) firsts.set(lane, drive);
  }
  return [...firsts.values()].map(({ name }) => name);
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
