import { figuresOf, type Media } from '../drive/media';
import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import { speedAt } from './passTime';

/** A drive as a rebuild sees it. */
export interface RebuildDrive {
  readonly bay: string;
  readonly bytes: number;
  readonly media: Media;
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
  const isUsedOnly = rebuild.covers === 'used-space';
  const share = isUsedOnly ? usedShare : 1;
  const own = drives.get(member) as RebuildDrive;
  let [seconds, writtenBytes, readBytes] = [0, 0, 0];
  let isShingled = own.media === 'shingled';
  for (const band of bands) {
    if (band.redundancy === 0 || !band.members.includes(member)) continue;
    const others = band.members.filter((other) => other !== member).map((other) => drives.get(other) as RebuildDrive);
    isShingled ||= others.some(({ media }) => media === 'shingled');
    const curves = slowestOfEachMedia([own, ...others]);
    const height = band.toBytes - band.fromBytes;
    const rateAt = (position: number): number => Math.min(rebuild.ceilingBytesPerSecond, ...curves.map((curve) => rateOf(curve, position)));
    seconds += share * simpson((position) => 1 / rateAt(position), band.fromBytes, band.toBytes);
    writtenBytes += height * share;
    // A copy is read from one other; parity needs as many others as hold data.
    readBytes += height * share * (band.kind === 'mirror' ? 1 : band.members.length - band.redundancy);
  }
  const whole = isUsedOnly && share > 0 ? seconds / USED_ONLY.efficiency : seconds;
  const start = isUsedOnly ? USED_ONLY.startSeconds : 0;
  const time = (how: keyof typeof SHARES): number => (start + whole / SHARES[how]) * (isShingled ? SHINGLED_FACTOR[how] : 1);
  return Object.freeze({
    kind: 'rebuild-estimate',
    member,
    writtenBytes: Math.round(writtenBytes),
    readBytes: Math.round(readBytes),
    low: time('low'),
    likely: time('likely'),
    high: time('high'),
  });
}

/**
 * The rebuild that takes longest, over the members that are used highest; `null` where nothing can be rebuilt.
 */
export function longestRebuild(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  rebuild: Profile['rebuild'],
  usedShare = 1,
): RebuildEstimate | null {
  const guarded = bands.filter(({ redundancy }) => redundancy > 0);
  if (guarded.length === 0) return null;
  // Members of the same bands and of the same make take the same time.
  const distinct = new Map<string, string>();
  const bandsOf = new Map<string, string>();
  guarded.forEach((band, i) => {
    for (const member of band.members) bandsOf.set(member, `${bandsOf.get(member) ?? ''},${bandKey(band, i)}`);
  });
  for (const [member, key] of bandsOf) {
    const { bytes, media } = drives.get(member) as RebuildDrive;
    distinct.set(`${key} ${String(bytes)} ${media}`, member);
  }
  return [...distinct.values()].map((member) => estimateRebuild(guarded, drives, member, rebuild, usedShare)).reduce((a, b) => (b.likely > a.likely ? b : a));
}

/** Groups side by side are alike when their heights, widths and kinds are. */
function bandKey({ kind, fromBytes, toBytes, members, redundancy }: Band, index: number): string {
  return kind === 'dedicated' ? String(index) : `${kind} ${String(fromBytes)} ${String(toBytes)} ${String(members.length)} ${String(redundancy)}`;
}

/** Of drives of one medium the smallest is slowest at any height: it has passed the largest share of itself. */
function slowestOfEachMedia(drives: readonly RebuildDrive[]): RebuildDrive[] {
  const slowest = new Map<Media, RebuildDrive>();
  for (const drive of drives) if (drive.bytes < (slowest.get(drive.media)?.bytes ?? Infinity)) slowest.set(drive.media, drive);
  return [...slowest.values()];
}

function rateOf({ media, bytes }: RebuildDrive, position: number): number {
  const { outerBytesPerSecond, innerOverOuter } = figuresOf(media);
  return speedAt(outerBytesPerSecond, innerOverOuter, Math.min(1, position / bytes));
}

function simpson(f: (x: number) => number, from: number, to: number): number {
  const step = (to - from) / PANELS;
  let sum = f(from) + f(to);
  for (let i = 1; i < PANELS; i++) sum += f(from + i * step) * (i % 2 === 1 ? 4 : 2);
  return (sum * step) / 3;
}
