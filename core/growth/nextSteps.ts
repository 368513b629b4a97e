import { labelBytes } from '../drive/labelBytes';
import type { Layout } from '../layout/layout';
import { planLayout, type PlannedDrive } from '../layout/planLayout';
import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { addedAtATime, addToPool } from '../pool/added';
import { membersOfBands, redundancyOf, usableOf, type BuiltPool, type PoolDrive } from '../pool/builtPool';
import { grownBands } from '../pool/grown';
import { drivesByName, membersOnly, poolOfLayout } from '../pool/ofLayout';
import { formatBytes } from '../quantity/formatBytes';
import { isRefusal } from '../value/refusal';

/** One way on from a pool: what to do, and what it gives. */
export interface GrowthStep {
  readonly kind: 'growth-step';
  readonly what: string;
  readonly usableBytes: number;
  readonly gainedBytes: number;
  /** Drives to buy for it. */
  readonly drives: number;
}

const STEPS = 3;
/** Label sizes drives are sold in, GB (common practice). */
const SIZES = [
  1000, 2000, 3000, 4000, 6000, 8000, 10000, 12000, 14000, 16000, 18000, 20000, 22000, 24000, 28000, 32000, 36000,
].map(labelBytes);

/** A pool on its way, with its members and the bays still free. */
interface OnTheWay {
  readonly pool: BuiltPool;
  readonly members: ReadonlyMap<string, PoolDrive>;
  readonly free: number;
}

interface Step extends OnTheWay {
  readonly what: string;
  readonly drives: number;
}

/**
 * The next three steps a pool built of a layout can grow by under this profile, as the built pool takes them
 * (`core/pool`): free bays first (a drive, a pair, or a whole group where the family grows so), then swaps for larger
 * drives, one at a time where that already helps and all of a kind where nothing grows before the last. A pool without
 * protection has no member swapped under it: it is copied off first. No drive is named larger than gives the same.
 */
export function nextSteps(
  profile: Profile,
  layout: Layout,
  drives: readonly PlannedDrive[],
  bays: number,
): GrowthStep[] {
  const steps: GrowthStep[] = [];
  let now: OnTheWay = {
    pool: poolOfLayout(layout),
    members: drivesByName(membersOnly(layout, drives)),
    free: bays - drives.length,
  };
  for (let i = 0; i < STEPS; i++) {
    const before = usableOf(now.pool.bands);
    const step = added(profile, now) ?? (redundancyOf(now.pool) > 0 ? swapped(profile, now) : madeAnew(profile, now));
    if (!step) break;
    const usableBytes = usableOf(step.pool.bands);
    steps.push(
      Object.freeze({
        kind: 'growth-step',
        what: step.what,
        usableBytes,
        gainedBytes: usableBytes - before,
        drives: step.drives,
      }),
    );
    now = step;
  }
  return steps;
}

function added(profile: Profile, { pool, members, free }: OnTheWay): Step | null {
  const count = addedAtATime(profile, pool);
  if (count === 0 || count > free) return null;
  const largest = Math.max(...[...members.values()].map(({ bytes }) => bytes));
  const withDrives = (bytes: number): (OnTheWay & { readonly gained: number }) | null => {
    const fresh = Array.from({ length: count }, (_, i): PoolDrive => ({
      name: `new ${String(members.size + i + 1)}`,
      bytes,
    }));
    const made = addToPool(profile, pool, members, fresh);
    if (isRefusal(made) || made.gainedBytes <= 0) return null;
    return {
      pool: { ...pool, bands: made.bands },
      members: new Map([...members, ...fresh.map((drive) => [drive.name, drive] as const)]),
      free: free - count,
      gained: made.gainedBytes,
    };
  };
  const best = withDrives(largest);
  if (!best) return null;
  const bytes = smallestThatGives(members, largest, (size) => withDrives(size)?.gained === best.gained);
  const what =
    count === 1
      ? `Add one ${formatBytes(bytes)} drive in a free bay`
      : `Add ${String(count)} drives of ${formatBytes(bytes)}, ${factsOf(pool.scheme).built === 'pairs' ? 'a pair' : 'a whole group'}`;
  return { ...(withDrives(bytes) ?? best), what, drives: count };
}

function swapped(profile: Profile, { pool, members, free }: OnTheWay): Step | null {
  const sizes = [...members.values()].map(({ bytes }) => bytes);
  const [smallest, largest] = [Math.min(...sizes), Math.max(...sizes)];
  const target = smallest < largest ? largest : SIZES.find((bytes) => bytes > largest * 1.2);
  if (target === undefined) return null;
  const before = usableOf(pool.bands);
  const parity =
    factsOf(pool.scheme).built === 'dedicated' ? (pool.bands[0]?.members ?? []).slice(0, redundancyOf(pool)) : [];
  const order = membersOfBands(pool.bands)
    .flatMap((name) => members.get(name) ?? [])
    .sort((a, b) => Number(parity.includes(b.name)) - Number(parity.includes(a.name)) || a.bytes - b.bytes);
  const withSwaps = (count: number, bytes: number): OnTheWay => {
    const chosen = order.filter((drive) => drive.bytes < bytes).slice(0, count);
    const next = new Map([...members, ...chosen.map((drive) => [drive.name, { ...drive, bytes }] as const)]);
    return { pool: { ...pool, bands: grownBands(profile, pool, next) }, members: next, free };
  };
  const gained = (count: number, bytes: number): number => usableOf(withSwaps(count, bytes).pool.bands) - before;
  const most = order.filter(({ bytes }) => bytes < target).length;
  for (let count = 1; count <= most; count++) {
    const best = gained(count, target);
    if (best <= 0) continue;
    const bytes = smallestThatGives(members, target, (size) => gained(count, size) === best);
    const [first] = order.filter((drive) => drive.bytes < bytes);
    const parityFirst = order.slice(0, count).some(({ name }) => parity.includes(name))
      ? '; parity first, it guards nothing above its own size'
      : '';
    const what =
      count === 1
        ? `Swap bay ${first?.name ?? ''} (${formatBytes(first?.bytes ?? 0)}) for ${formatBytes(bytes)}`
        : `Swap ${String(count)} drives for ${formatBytes(bytes)}, one at a time; nothing grows before the last${parityFirst}`;
    return { ...withSwaps(count, bytes), what, drives: count };
  }
  return null;
}

/** Without protection no member is swapped under the data: everything is copied off, and the pool made anew. */
function madeAnew(profile: Profile, { pool, members, free }: OnTheWay): Step | null {
  const largest = Math.max(...[...members.values()].map(({ bytes }) => bytes));
  const bytes = SIZES.find((size) => size > largest * 1.2 && size <= (profile.bays.largestDriveBytes ?? Infinity));
  if (bytes === undefined) return null;
  const next = [...members.keys()].map((bay) => ({ bay, bytes }));
  const layout = planLayout(profile, pool.scheme, next);
  if (!layout.legal) return null;
  const what = `Copy everything off first and prove the copy; then make it anew of ${String(next.length)} ${next.length === 1 ? 'drive' : 'drives'} of ${formatBytes(bytes)}: without protection no member is swapped under the data`;
  return { pool: poolOfLayout(layout), members: drivesByName(next), free, what, drives: next.length };
}

/** The smallest drive there is, of those sold and those already in, that gives as much as the one of `bytes` would. */
function smallestThatGives(
  members: ReadonlyMap<string, PoolDrive>,
  bytes: number,
  gives: (size: number) => boolean,
): number {
  const sizes = [...new Set([...SIZES, ...[...members.values()].map((drive) => drive.bytes)])].sort((a, b) => a - b);
  return sizes.find((size) => size <= bytes && gives(size)) ?? bytes;
}
