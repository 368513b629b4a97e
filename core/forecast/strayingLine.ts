import type { Days } from './byDay';
import { normal, normalPair, type Random } from './random';

/**
 * A straight line whose level and slope both stray from day to day (the local linear trend of Harvey, Forecasting, Structural
 * Time Series Models and the Kalman Filter, 1989, chapter 4; in continuous time, so that readings may lie however far apart).
 * Each reading is foretold from those before it: how well is how likely the assumption is.
 */

const { log, exp, sqrt } = Math;

/** What is assumed of how a history strays, in squares: with what its level strays by a day as the unit. */
interface Assumed {
  /** What a reading strays by and comes back. */
  readonly reading: number;
  /** What the slope strays by a day. */
  readonly slope: number;
}

/** What a history says under one assumption. */
export interface Heard extends Assumed {
  /** The logarithm of how likely what was read is, but for what all assumptions have alike. */
  readonly evidence: number;
  /** What the level strays by a day, in squares, and from how many readings that is known. */
  readonly scale: number;
  readonly degrees: number;
  /** Level and slope at the last reading, and what is not known of them, in the unit. */
  readonly level: number;
  readonly rate: number;
  readonly unknown: readonly [level: number, both: number, rate: number];
}

/** A day on which the slope changed all at once, and by how much, squared. */
export interface Broken {
  readonly day: number;
  readonly squared: number;
}

const READING = [0.001, 1, 10, 100, 1000, 10_000];
const SLOPE = [1e-6, 1e-5, 1e-4, 1e-3, 1e-2];
/** Since a slope changed, what all readings stray by counts as much as so many. */
const POOLED = 3;
/** As many readings tell as much as all. */
const MOST_READ = 240;

/** Some of the days of a long history, evenly, with the last. */
export function thinned({ day, bytes }: Days): Days {
  const every = Math.ceil(day.length / MOST_READ);
  const isKept = (_: number, i: number): boolean => (day.length - 1 - i) % every === 0;
  return { day: day.filter(isKept), bytes: bytes.filter(isKept) };
}

/**
 * A history as it is heard by every assumption of how it strays: with a slope that stays, or one that does not.
 *
 * @param days at least two, as many as `thinned` leaves
 */
export function heardOf(days: Days, slope: 'stays' | 'strays', broken?: Broken): readonly Heard[] {
  const unit = unitOf(days);
  const slopes = slope === 'stays' ? [0] : SLOPE;
  return READING.flatMap((reading) => slopes.map((one) => heardBy(days, { reading, slope: one }, unit, broken)));
}

/** How likely a history is by all of these together, each as likely beforehand (a logarithm). */
export function evidenceOf(heard: readonly Pick<Heard, 'evidence'>[]): number {
  const most = Math.max(...heard.map(({ evidence }) => evidence));
  return most + log(heard.reduce((sum, { evidence }) => sum + exp(evidence - most), 0) / heard.length);
}

/** The assumption that makes what was read likeliest. */
export function likeliest<T extends Pick<Heard, 'evidence'>>(heard: readonly T[]): T {
  return heard.reduce((a, b) => (b.evidence > a.evidence ? b : a));
}

/** What one step strays by a day: a scale to begin with. */
function unitOf({ day, bytes }: Days): number {
  const squares = day
    .slice(1)
    .map((one, i) => ((bytes[i + 1] as number) - (bytes[i] as number)) ** 2 / (one - (day[i] as number)));
  return squares.reduce((a, b) => a + b, 0) / Math.max(1, squares.length) || 1;
}

/** Follows a history from reading to reading (Kalman 1960); the first two only say where it begins. */
function heardBy({ day, bytes }: Days, assumed: Assumed, unit: number, broken?: Broken): Heard {
  const [r, p, q] = [assumed.reading * unit, unit, assumed.slope * unit];
  const first = (day[1] as number) - (day[0] as number);
  let level = bytes[1] as number;
  let rate = (level - (bytes[0] as number)) / first;
  let a = r;
  let b = r / first;
  let c = (2 * r + p * first + (q * first ** 3) / 3) / first ** 2;
  let left = 0;
  let logs = 0;
  let [since, leftSince] = [0, 0];
  for (let i = 2; i < day.length; i++) {
    const [from, to] = [day[i - 1] as number, day[i] as number];
    const h = to - from;
    if (broken && broken.day >= from && broken.day < to) c += broken.squared;
    // No arrays here: this is where the time of a forecast goes.
    const c1 = c + q * h;
    const b1 = b + h * c + (q * h * h) / 2;
    const a1 = a + 2 * h * b + h * h * c + p * h + (q * h * h * h) / 3;
    const foretold = level + rate * h;
    const off = (bytes[i] as number) - foretold;
    const spread = a1 + r;
    left += (off * off) / spread;
    if (broken && from >= broken.day) {
      since++;
      leftSince += (off * off) / spread;
    }
    logs += log(spread);
    const byLevel = a1 / spread;
    const byRate = b1 / spread;
    level = foretold + byLevel * off;
    rate += byRate * off;
    a = a1 * (1 - byLevel);
    b = b1 * (1 - byLevel);
    c = c1 - byRate * b1;
  }
  // Of two readings all that lies between them may be chance.
  const degrees = Math.max(1, day.length - 2);
  const scale = day.length > 2 ? (unit * left) / degrees : unit;
  const known = broken ? since + POOLED : degrees;
  return {
    ...assumed,
    evidence: -(degrees / 2) * log(left || Number.MIN_VALUE) - logs / 2,
    // What grows at another pace strays otherwise, too: by what it did since, and as far as that is little, by all.
    scale: broken ? (unit * leftSince + POOLED * scale) / known : scale,
    degrees: known,
    level,
    rate,
    unknown: [a / unit, b / unit, c / unit],
  };
}

/**
 * One way it may go on: an assumption drawn by how likely it is, what it strays by, where it stands and how fast it grows as
 * they may be in truth, and what comes.
 *
 * @param ahead days from now, rising, as far apart as the first is from now
 * @returns the slope of now (bytes a day), and what is used on each day
 */
export function drawnAhead(
  heard: readonly Heard[],
  ahead: readonly number[],
  random: Random,
): { readonly slope: number; readonly used: readonly number[] } {
  const one = drawnBy(heard, random);
  const line = drawnLine(one, random);
  const { scale } = line;
  let { level, rate } = line;
  const slope = rate;
  const h = ahead[0] ?? 1;
  const [q, reading] = [one.slope * scale, sqrt(one.reading * scale)];
  // Level and slope of a step stray together: ∫∫ and ∫ of the same noise.
  const [ofRate, together, alone] = [sqrt(q * h), sqrt((q * h ** 3) / 4), sqrt(scale * h + (q * h ** 3) / 12)];
  // Of a slope that stays nothing is drawn.
  const used = ahead.map(() => {
    const x = q > 0 ? normal(random) : 0;
    const [y, back] = normalPair(random);
    level += rate * h + together * x + alone * y;
    rate += ofRate * x;
    return level + reading * back;
  });
  return { slope, used };
}

/** What it strays by, where it stands and how fast it grows, as they may be in truth: by what is not known of each. */
export function drawnLine(
  { scale: known, degrees, level, rate, unknown }: Pick<Heard, 'scale' | 'degrees' | 'level' | 'rate' | 'unknown'>,
  random: Random,
): { readonly scale: number; readonly level: number; readonly rate: number } {
  const scale = (known * degrees) / chiSquare(degrees, random);
  const [a, b, c] = unknown.map((of) => of * scale) as [number, number, number];
  const [z, other] = normalPair(random);
  const byLevel = a > 0 ? b / sqrt(a) : 0;
  return {
    scale,
    level: level + sqrt(a) * z,
    rate: rate + byLevel * z + sqrt(Math.max(0, c - byLevel ** 2)) * other,
  };
}

/** One of them, as often as it is likely. */
export function drawnBy<T extends Pick<Heard, 'evidence'>>(heard: readonly T[], random: Random): T {
  const most = Math.max(...heard.map(({ evidence }) => evidence));
  const weights = heard.map(({ evidence }) => exp(evidence - most));
  let left = random() * weights.reduce((x, y) => x + y, 0);
  return heard.find((_, i) => (left -= weights[i] as number) < 0) ?? (heard.at(-1) as T);
}

/** A draw of a sum of squares of so many normal ones (Wilson and Hilferty 1931). */
function chiSquare(degrees: number, random: Random): number {
  const part = 2 / (9 * degrees);
  return degrees * Math.max(0.05, 1 - part + normal(random) * sqrt(part)) ** 3;
}
