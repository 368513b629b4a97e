import { labelBytes } from '../drive/labelBytes';
import { DISKS_SOLD } from '../drive/sizesSold';
import type { Layout } from '../layout/layout';
import { planLayout, type PlannedDrive } from '../layout/planLayout';
import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { addedAtATime } from '../pool/added';
import { membersOfBands, redundancyOf } from '../pool/builtPool';
import { parityOf } from '../pool/dedicatedParity';
import { drivesByName, membersOnly, poolOfLayout } from '../pool/ofLayout';
import { formatBytes } from '../quantity/formatBytes';
import { growingOf, swapped, withAdded, type Growing } from './growing';

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
const SIZES = DISKS_SOLD.map(labelBytes);

interface Step extends Growing {
  readonly what: string;
  /** Drives to buy for it. */
  readonly bought: number;
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
  const free = Array.from({ length: bays - drives.length }, (_, i) => `new ${String(drives.length + i + 1)}`);
  let now = growingOf(profile, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free);
  for (let i = 0; i < STEPS; i++) {
    const step = addedTo(now) ?? (redundancyOf(now.pool) > 0 ? swappedIn(now) : madeAnew(now));
    if (!step) break;
    steps.push(
      Object.freeze({
        kind: 'growth-step',
        what: step.what,
        usableBytes: step.usableBytes,
        gainedBytes: step.usableBytes - now.usableBytes,
        drives: step.bought,
      }),
    );
    now = step;
  }
  return steps;
}

function addedTo(now: Growing): Step | null {
  const count = addedAtATime(now.profile, now.pool);
  if (count === 0) return null;
  const largest = Math.max(...[...now.drives.values()].map(({ bytes }) => bytes));
  const best = withAdded(now, count, largest);
  if (!best || best.after.usableBytes <= now.usableBytes) return null;
  const bytes = smallestThatGives(
    now,
    largest,
    (size) => withAdded(now, count, size)?.after.usableBytes === best.after.usableBytes,
  );
  const what =
    count === 1
      ? `Add one ${formatBytes(bytes)} drive in a free bay`
      : `Add ${String(count)} drives of ${formatBytes(bytes)}, ${factsOf(now.pool.scheme).built === 'pairs' ? 'a pair' : 'a whole group'}`;
  return { ...(withAdded(now, count, bytes) ?? best).after, what, bought: count };
}

function swappedIn(now: Growing): Step | null {
  const { pool, drives } = now;
  const sizes = [...drives.values()].map(({ bytes }) => bytes);
  const [smallest, largest] = [Math.min(...sizes), Math.max(...sizes)];
  const target = smallest < largest ? largest : SIZES.find((bytes) => bytes > largest * 1.2);
  if (target === undefined) return null;
  const parity = parityOf(pool);
  const order = membersOfBands(pool.bands)
    .flatMap((name) => drives.get(name) ?? [])
    .sort((a, b) => Number(parity.includes(b.name)) - Number(parity.includes(a.name)) || a.bytes - b.bytes);
  const withSwaps = (count: number, bytes: number): Growing =>
    swapped(
      now,
      order
        .filter((drive) => drive.bytes < bytes)
        .slice(0, count)
        .map(({ name }) => name),
      bytes,
    );
  const gained = (count: number, bytes: number): number => withSwaps(count, bytes).usableBytes - now.usableBytes;
  const most = order.filter(({ bytes }) => bytes < target).length;
  for (let count = 1; count <= most; count++) {
    const best = gained(count, target);
    if (best <= 0) continue;
    const bytes = smallestThatGives(now, target, (size) => gained(count, size) === best);
    const [first] = order.filter((drive) => drive.bytes < bytes);
    const parityFirst = order.slice(0, count).some(({ name }) => parity.includes(name))
      ? '; parity first, it guards nothing above its own size'
      : '';
    const what =
      count === 1
        ? `Swap bay ${first?.name ?? ''} (${formatBytes(first?.bytes ?? 0)}) for ${formatBytes(bytes)}`
        : `Swap ${String(count)} drives for ${formatBytes(bytes)}, one at a time; nothing grows before the last${parityFirst}`;
    return { ...withSwaps(count, bytes), what, bought: count };
  }
  return null;
}

/** Without protection no member is swapped under the data: everything is copied off, and the pool made anew. */
function madeAnew({ profile, pool, drives, free }: Growing): Step | null {
  const largest = Math.max(...[...drives.values()].map(({ bytes }) => bytes));
  const bytes = SIZES.find((size) => size > largest * 1.2 && size <= (profile.bays.largestDriveBytes ?? Infinity));
  if (bytes === undefined) return null;
  const next = [...drives.keys()].map((bay) => ({ bay, bytes }));
  const layout = planLayout(profile, pool.scheme, next);
  if (!layout.legal) return null;
  const what = `Copy everything off first and prove the copy; then make it anew of ${String(next.length)} ${next.length === 1 ? 'drive' : 'drives'} of ${formatBytes(bytes)}: without protection no member is swapped under the data`;
  return { ...growingOf(profile, poolOfLayout(layout), drivesByName(next), free), what, bought: next.length };
}

/** The smallest drive there is, of those sold and those already in, that gives as much as the one of `bytes` would. */
function smallestThatGives({ drives }: Growing, bytes: number, gives: (size: number) => boolean): number {
  const sizes = [...new Set([...SIZES, ...[...drives.values()].map((drive) => drive.bytes)])].sort((a, b) => a - b);
  return sizes.find((size) => size <= bytes && gives(size)) ?? bytes;
}
