import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import { rateThrough, type RebuildDrive } from './estimateRebuild';

/**
 * How work is spread over its progress: a disk is fast at its edge and slow inside, so that half the bytes take less
 * than half the time.
 */
export interface WorkCurve {
  readonly kind: 'work-curve';
  /** Seconds at full speed from end to end. */
  readonly seconds: number;
  /** Share of the bytes passed at each knot, rising from 0 to 1. */
  readonly shares: readonly number[];
  /** Share of the full-speed time taken at each knot, rising from 0 to 1. */
  readonly times: readonly number[];
  /** Where each band ends, as a share of the bytes. */
  readonly bandEnds: readonly number[];
}

/** Knots a band. */
const KNOTS = 64;

/**
 * The curve of writing one member anew, band by band from the lowest, or of reading all of a pool where no member is
 * named. Every surviving member and the ceiling count at each height (see {@link rateThrough}).
 *
 * @param member left out: every band counts, as in a first build or a check
 */
export function workCurve(
  bands: readonly Band[],
  drives: ReadonlyMap<string, RebuildDrive>,
  rebuild: Profile['rebuild'],
  member?: string,
): WorkCurve {
  const chosen =
    member === undefined
      ? highest(bands)
      : bands.filter(({ members, redundancy }) => redundancy > 0 && members.includes(member));
  const [bytes, seconds, ends] = [[0], [0], [] as number[]];
  for (const band of [...chosen].sort((a, b) => a.fromBytes - b.fromBytes)) {
    const rate = rateThrough(band, drives, rebuild);
    const step = (band.toBytes - band.fromBytes) / KNOTS;
    for (let i = 0; i < KNOTS; i++) {
      const from = band.fromBytes + i * step;
      // Simpson over one panel: the curve is smooth within it.
      const time = (step / 6) * (1 / rate(from) + 4 / rate(from + step / 2) + 1 / rate(from + step));
      bytes.push((bytes.at(-1) as number) + step);
      seconds.push((seconds.at(-1) as number) + time);
    }
    ends.push(bytes.at(-1) as number);
  }
  const [all, whole] = [bytes.at(-1) as number, seconds.at(-1) as number];
  if (all === 0) return FLAT;
  return Object.freeze({
    kind: 'work-curve',
    seconds: whole,
    shares: bytes.map((of) => of / all),
    times: seconds.map((of) => of / whole),
    bandEnds: ends.map((of) => of / all),
  });
}

/** The same work where the speed falls besides by such a share of itself from its beginning to its end, 0 to below 1. */
export function fallingBy(curve: WorkCurve, drop: number): WorkCurve {
  const times = [0];
  for (let i = 1; i < curve.shares.length; i++) {
    const middle = ((curve.shares[i] as number) + (curve.shares[i - 1] as number)) / 2;
    const step = (curve.times[i] as number) - (curve.times[i - 1] as number);
    times.push((times[i - 1] as number) + step / (1 - drop * middle));
  }
  const whole = times.at(-1) as number;
  return Object.freeze({ ...curve, seconds: curve.seconds * whole, times: times.map((of) => of / whole) });
}

/** Nothing known of the drives: as much time for every byte. */
const FLAT: WorkCurve = Object.freeze({ kind: 'work-curve', seconds: 0, shares: [0, 1], times: [0, 1], bandEnds: [1] });

/** Groups side by side are worked on together: one of each height stands for all. */
function highest(bands: readonly Band[]): Band[] {
  const byHeight = new Map(bands.map((band) => [`${String(band.fromBytes)} ${String(band.toBytes)}`, band]));
  const sorted = [...byHeight.values()].sort((a, b) => b.toBytes - b.fromBytes - (a.toBytes - a.fromBytes));
  return sorted.filter(
    (band, i) =>
      !sorted.slice(0, i).some((other) => other.fromBytes <= band.fromBytes && band.toBytes <= other.toBytes),
  );
}

/** The share of the full-speed time that a share of the bytes takes, both 0..1. */
export function timeAt({ shares, times }: WorkCurve, share: number): number {
  const x = Math.min(1, Math.max(0, share));
  let [low, high] = [0, shares.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((shares[middle] as number) <= x) low = middle;
    else high = middle;
  }
  const [a, b] = [shares[low] as number, shares[high] as number];
  const [s, t] = [times[low] as number, times[high] as number];
  return b === a ? t : s + ((x - a) / (b - a)) * (t - s);
}
