import { figuresOf, type Media } from '../drive/media';
import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import { averageSpeed } from '../rebuild/passTime';

/** What a pool does: large files in bytes/s, small random operations a second. */
export interface PoolSpeed {
  readonly kind: 'pool-speed';
  readonly read: number;
  readonly write: number;
  readonly smallReads: number;
  readonly smallWrites: number;
}

/** What all drives together can move through a head, bytes/s: eight lanes of PCIe 3.0, less what the protocol takes (common practice). */
const USUAL_HEAD = 7e9;

/** Share of every drive that a running rebuild leaves to people (common practice). */
const LEFT_BY_REBUILD = 0.5;

/**
 * A pool's speed from its drives' figures and the level's arithmetic: stripes add up, copies are written n times, a
 * small write to parity costs 4 operations (read and write of data and of parity), 6 with double parity; Patterson,
 * Gibson and Katz 1988. A file lies in one band; over the pool, bands count by their bytes.
 *
 * Large files never go faster than all of their bytes, protection included, get through the head.
 *
 * @param isRebuilding with one member of each band missing, and a rebuild running
 */
export function speedOfLayout(
  bands: readonly Band[],
  drives: ReadonlyMap<string, { readonly media: Media }>,
  { headBytesPerSecond = USUAL_HEAD }: Pick<Profile, 'headBytesPerSecond'>,
  isRebuilding = false,
): PoolSpeed {
  const usable = bands.reduce((sum, band) => sum + band.usableBytes, 0);
  const parallel = bands.length > 0 && areSideBySide(bands);
  const speeds = bands.map((band) => ({
    share: band.usableBytes / usable,
    speed: speedOfBand(band, drives, isRebuilding && band.redundancy > 0),
  }));
  const over = (of: (speed: PoolSpeed) => number): number => {
    // Groups side by side work at once; bands on top of one another take turns.
    if (parallel) return speeds.reduce((sum, { speed }) => sum + of(speed), 0);
    const time = speeds.reduce((sum, { share, speed }) => sum + share / of(speed), 0);
    return time === 0 ? 0 : 1 / time;
  };
  const onDrives = bands.reduce(
    (sum, { fromBytes, toBytes, members }) => sum + (toBytes - fromBytes) * members.length,
    0,
  );
  const ofData = onDrives === 0 ? 1 : Math.min(1, usable / onDrives);
  return Object.freeze({
    kind: 'pool-speed',
    read: Math.min(
      headBytesPerSecond,
      over(({ read }) => read),
    ),
    write: Math.min(
      headBytesPerSecond * ofData,
      over(({ write }) => write),
    ),
    smallReads: over(({ smallReads }) => smallReads),
    smallWrites: over(({ smallWrites }) => smallWrites),
  });
}

function areSideBySide(bands: readonly Band[]): boolean {
  const all = bands.flatMap(({ members }) => members);
  const striped = bands.every(({ kind }) => kind === 'mirror' || kind === 'parity');
  return striped && new Set(all).size === all.length;
}

function speedOfBand(
  { kind, members, redundancy }: Band,
  drives: ReadonlyMap<string, { readonly media: Media }>,
  isThinned: boolean,
): PoolSpeed {
  const media = members.map((member) => figuresOf(drives.get(member)?.media ?? 'hard-disk'));
  const slowest = (of: (figures: (typeof media)[number]) => number): number => Math.min(...media.map(of));
  const [v, reads, writes] = [
    slowest(({ outerBytesPerSecond, innerOverOuter }) => averageSpeed(outerBytesPerSecond, innerOverOuter)),
    slowest(({ readsPerSecond }) => readsPerSecond),
    slowest(({ writesPerSecond }) => writesPerSecond),
  ];
  const n = members.length;
  const left = isThinned ? LEFT_BY_REBUILD : 1;
  const there = isThinned ? n - 1 : n;
  const speed = (read: number, write: number, smallReads: number, smallWrites: number): PoolSpeed => ({
    kind: 'pool-speed',
    read: read * left,
    write: write * left,
    smallReads: smallReads * left,
    smallWrites: smallWrites * left,
  });
  switch (kind) {
    case 'single':
    case 'span':
      return speed(v, v, reads, writes);
    case 'stripe':
      return speed(n * v, n * v, n * reads, n * writes);
    case 'mirror':
      return speed(there * v, v, there * reads, writes);
    case 'parity': {
      const data = n - redundancy;
      // What the missing member held is worked out from all the others.
      const cost = isThinned ? ((n - 1) / n) * 1 + (1 / n) * data : 1;
      const small = isThinned ? thinnedWrite(n, redundancy) : { reads: 1 + redundancy, writes: 1 + redundancy };
      return speed(data * v, data * v, (there * reads) / cost, there / (small.reads / reads + small.writes / writes));
    }
    case 'dedicated': {
      const data = n - redundancy;
      // Every write reads and writes the parity drives too: they are the narrow place.
      return speed(v, v / 2, isThinned ? reads : data * reads, 1 / (1 / reads + 1 / writes));
    }
  }
}

/**
 * What a small write to a band of n with r drives of parity costs in the mean with one member missing, in reads and writes of
 * disks. Of data that is missing the other data are read and all parity is written; of parity that is missing nothing is
 * read where it was the only one; elsewhere data and parity are read and written as ever (arithmetic of the level).
 */
function thinnedWrite(n: number, r: number): { readonly reads: number; readonly writes: number } {
  const [data, parity, other] = [1 / n, r / n, (n - 1 - r) / n];
  return {
    reads: data * (n - 1 - r) + parity * (r === 1 ? 0 : r) + other * (1 + r),
    writes: data * r + parity * r + other * (1 + r),
  };
}
