import { figuresOf, type Media } from '../drive/media';
import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import { speedAt } from './passTime';

/** A drive as a rebuild sees it. */
export interface RebuildDrive {
  readonly bay: string;
  readonly bytes: number;
  readonly media: Media;
  /** Inner over outer speed, where it is thought to be another than its kind's, 0 to 1. */
  readonly innerOverOuter?: number;
}

export interface RebuildEstimate {
  readonly kind: 'rebuild-estimate';
  /** The member it is about. */
  readonly member: string;
  /** Bytes written on the new drive, and read from all the others together. */
  readonly writtenBytes: number;
  readonly readBytes: number;
  readonly low: number;
  readonly likely: number;
  /** Seconds, all three. */
  readonly high: number;
}

/** Share of a unit's speed that goes into a rebuild: left alone, in daily use, in heavy use (common practice). */
const SHARES = { low: 1, likely: 0.7, high: 0.35 } as const;
/** Used-only rebuilds walk the file system: slower per byte, with a start of their own (common practice). */
const USED_ONLY = { efficiency: 0.6, startSeconds: 180 } as const;
/** Shingled drives stall when written without a pause; how much longer is anybody's guess (common practice). */
const SHINGLED_FACTOR = { low: 1.2, likely: 2.5, high: 6 } as const;
/** Panels of Simpson's rule a band. */
const PANELS = 48;

/**
 * How long rebuilding one member takes: for each band it is in, the rate at every height is the least of the new
 * drive's write, every surviving read and the controller's ceiling at that height, integrated over the height.
 *
 * @param member the one that is written anew, onto a drive like it
 * @param usedShare share of the space in use, 0..1; matters where only used space is rebuilt
 */
export function estimateRebuild(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  member: string,
  rebuild: Profile['rebuild'],
  usedShare = 1,
): RebuildEstimate {
  return estimateFor(
    member,
    guardedBands(bands)
      .filter((band) => band.members.includes(member))
      .map((band) => timeBand(band, drives, rebuild)),
    rebuild,
    usedShare,
  );
}

/** The rebuild that takes longest, over all members; `null` where nothing can be rebuilt. */
export function longestRebuild(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  rebuild: Profile['rebuild'],
  usedShare = 1,
): RebuildEstimate | null {
  return longestOf(rebuildOfEach(bands, drives, rebuild, usedShare));
}

/** The one of these that takes longest; `null` where there is none. */
export function longestOf(rebuilds: ReadonlyMap<string, RebuildEstimate>): RebuildEstimate | null {
  let longest: RebuildEstimate | null = null;
  for (const estimate of rebuilds.values())
    if (longest === null || estimate.likely > longest.likely) longest = estimate;
  return longest;
}

/** The rebuild of every member that can be rebuilt, by its name. */
export function rebuildOfEach(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  rebuild: Profile['rebuild'],
  usedShare = 1,
): ReadonlyMap<string, RebuildEstimate> {
  const timed = new Map<string, TimedBand[]>();
  // Groups side by side are mostly alike.
  const known = new Map<string, TimedBand>();
  const timeOnce = (band: Band): TimedBand => {
    const makes = slowestOfEachMedia(band.members.map((member) => drives.get(member) as RebuildDrive)).map(
      ({ media, bytes }) => `${media} ${String(bytes)}`,
    );
    const key = [band.kind, band.fromBytes, band.toBytes, band.members.length, band.redundancy, ...makes].join();
    const time = known.get(key) ?? timeBand(band, drives, rebuild);
    known.set(key, time);
    return time;
  };
  for (const band of guardedBands(bands)) {
    // All of a band take part, whichever member is written: its time is the same for each.
    const time = timeOnce(band);
    for (const member of band.members) timed.set(member, [...(timed.get(member) ?? []), time]);
  }
  return new Map(
    [...timed].map(([member, bandsOfMember]) => [member, estimateFor(member, bandsOfMember, rebuild, usedShare)]),
  );
}

function guardedBands(bands: readonly Band[]): Band[] {
  return bands.filter(({ redundancy }) => redundancy > 0);
}

/** One band's part in the rebuild of any of its members, at full speed. */
interface TimedBand {
  readonly seconds: number;
  readonly writtenBytes: number;
  readonly readBytes: number;
  readonly isShingled: boolean;
}

/**
 * The rate a band is worked through at each height, bytes/s: the least of every member's speed there and of the
 * controller's ceiling.
 */
export function rateThrough(
  band: Band,
  drives: ReadonlyMap<string, RebuildDrive>,
  { ceilingBytesPerSecond }: Profile['rebuild'],
): (position: number) => number {
  const curves = slowestOfEachMedia(band.members.map((member) => drives.get(member) as RebuildDrive));
  return (position) => curves.reduce((least, curve) => Math.min(least, rateOf(curve, position)), ceilingBytesPerSecond);
}

function timeBand(band: Band, drives: ReadonlyMap<string, RebuildDrive>, rebuild: Profile['rebuild']): TimedBand {
  const members = band.members.map((member) => drives.get(member) as RebuildDrive);
  const rateAt = rateThrough(band, drives, rebuild);
  const height = band.toBytes - band.fromBytes;
  return {
    seconds: simpson((position) => 1 / rateAt(position), band.fromBytes, band.toBytes),
    writtenBytes: height,
    // A copy is read from one other; parity needs as many others as hold data.
    readBytes: height * (band.kind === 'mirror' ? 1 : members.length - band.redundancy),
    isShingled: members.some(({ media }) => media === 'shingled'),
  };
}

function estimateFor(
  member: string,
  bands: readonly TimedBand[],
  rebuild: Profile['rebuild'],
  usedShare: number,
): RebuildEstimate {
  const isUsedOnly = rebuild.covers === 'used-space';
  const share = isUsedOnly ? usedShare : 1;
  const sum = (of: (band: TimedBand) => number): number => share * bands.reduce((total, band) => total + of(band), 0);
  const seconds = sum((band) => band.seconds) / (isUsedOnly ? USED_ONLY.efficiency : 1);
  const start = isUsedOnly ? USED_ONLY.startSeconds : 0;
  const isShingled = bands.some((band) => band.isShingled);
  const time = (how: keyof typeof SHARES): number =>
    (start + seconds / SHARES[how]) * (isShingled ? SHINGLED_FACTOR[how] : 1);
  return Object.freeze({
    kind: 'rebuild-estimate',
    member,
    writtenBytes: Math.round(sum((band) => band.writtenBytes)),
    readBytes: Math.round(sum((band) => band.readBytes)),
    low: time('low'),
    likely: time('likely'),
    high: time('high'),
  });
}

/** Of drives of one medium the smallest is slowest at any height: it has passed the largest share of itself. */
function slowestOfEachMedia(drives: readonly RebuildDrive[]): RebuildDrive[] {
  const slowest = new Map<Media, RebuildDrive>();
  for (const drive of drives)
    if (drive.bytes < (slowest.get(drive.media)?.bytes ?? Infinity)) slowest.set(drive.media, drive);
  return [...slowest.values()];
}

function rateOf({ media, bytes, innerOverOuter }: RebuildDrive, position: number): number {
  const figures = figuresOf(media);
  const ratio = innerOverOuter ?? figures.innerOverOuter;
  return speedAt(figures.outerBytesPerSecond, ratio, Math.min(1, position / bytes));
}

function simpson(f: (x: number) => number, from: number, to: number): number {
  const step = (to - from) / PANELS;
  let sum = f(from) + f(to);
  for (let i = 1; i < PANELS; i++) sum += f(from + i * step) * (i % 2 === 1 ? 4 : 2);
  return (sum * step) / 3;
}
