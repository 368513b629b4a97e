import { YEAR_DAYS } from '../quantity/year';
import { DAY_MS } from '../quantity/days';
import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import { byDay, type Days, type Reading } from './byDay';
import { bendOf } from './compound';
import { drawnHabit, habitAhead, habitOf, habitPerDay } from './habit';
import { jumpsOf, withoutJumps, type Jump } from './jumps';
import { median, quantile } from './median';
import { seasonOf } from './season';
import { slopeChangeOf } from './slopeChange';
import { theilSen } from './theilSen';
import { wanderOf } from './wander';

const { sqrt, log, cos, PI } = Math;

/** Chance from outside: a number from 0 to below 1. */
export type Random = () => number;

/** Low, likely and high: four times out of five it lies between the outer two. */
export type Span<T> = readonly [low: T, likely: T, high: T];

/** What was seen in a history. */
export type Finding =
  | 'little-history'
  | 'jump'
  | 'jumps-again-and-again'
  | 'season'
  | 'slope-changed'
  | 'compound'
  | 'falls'
  | 'over-the-line'
  | 'does-not-cross'
  | 'beyond-horizon';

export interface Forecast {
  readonly kind: 'forecast';
  /** Bytes a year. */
  readonly slopeBytesPerYear: Span<number>;
  /** The day the line is crossed (2026-01-31); `null` when that is not to be expected within fifteen years. */
  readonly crosses: Span<string> | null;
  readonly found: readonly Finding[];
  /** What came or went at once, and is not in the slope unless it comes again and again. */
  readonly jumps: readonly { readonly on: string; readonly bytes: number }[];
  /** Since when it grows as it does now, where that changed. */
  readonly changedOn: string | null;
  /** What will be used, day by day at ever larger distances. */
  readonly fan: readonly { readonly on: string; readonly usedBytes: Span<number> }[];
}

/** Nobody plans further. */
const MOST_DAYS = 15 * YEAR_DAYS;
/** Shown at least. */
const LEAST_DAYS = 2 * YEAR_DAYS;
const PATHS = 500;
const STEPS = 120;
/** A step of many days is drawn as a few, as wide together. */
const MOST_DRAWN = 4;
/** So many jumps are a habit. */
const HABIT = 3;
/** Below so many days, or days read, a slope is a guess. */
const [LITTLE_DAYS, LITTLE_READ] = [28, 10];
/** How much wider it is for not knowing the spread itself, which is read off few independent pieces (calibrated: see the test). */
const SPREAD_UNKNOWN = 1.25;
/** No page shows to the byte: what is read strays by at least such a share of itself. */
const LEAST_SPREAD = 0.0005;
/** Student's 0.9 quantile over the normal one, by degrees of freedom 1, 2, …; beyond the last it hardly differs (Student 1908). */
const STUDENT = [2.4, 1.47, 1.28, 1.2, 1.15, 1.12, 1.1, 1.09, 1.08, 1.07];
/** The ends of the span: one in ten lies below, one above. */
const [LOW, HIGH] = [0.1, 0.9];

/**
 * When a pool crosses its line, from what was read of it: a robust slope (Theil–Sen) over the days since it grows as it
 * does, the season where three years show one, jumps told apart; the span by simulating on from today with what the
 * history shows of straying, of coming back and of not knowing the slope (a residual bootstrap).
 *
 * @param line share of the usable bytes, above 0 to 1
 * @returns refused (`too-little-history`) for readings of fewer than two days
 */
export function forecastUse(
  readings: readonly Reading[],
  usableBytes: number,
  line: number,
  random: Random,
): Forecast | Refusal {
  const all = byDay(readings);
  if (all.day.length < 2)
    return refusal(
      'too-little-history',
      `${all.day.length === 0 ? 'Nothing was read' : 'Only one day was read'}: a slope wants two days at least, and a month to be worth something. Say the need for a year instead.`,
      '/readings',
    );
  const found: Finding[] = [];
  const jumps = jumpsOf(all);
  const isHabit = jumps.length >= HABIT;
  if (jumps.length > 0) found.push(isHabit ? 'jumps-again-and-again' : 'jump');
  const level = withoutJumps(all, jumps);
  const season = seasonOf(level);
  if (season) found.push('season');
  const smooth: Days = season
    ? { day: level.day, bytes: level.bytes.map((bytes, i) => bytes - season.at(level.day[i] as number)) }
    : level;
  const breaks = slopeChangeOf(smooth);
  const bend = season || isHabit ? 'line' : bendOf(smooth, breaks);
  const isCompound = bend === 'curve' || (bend === 'either' && breaks === null);
  const changed = isCompound ? null : breaks;
  if (changed !== null) found.push('slope-changed');
  if (isCompound) found.push('compound');
  const from = changed === null ? 0 : smooth.day.indexOf(changed);
  const days: Days = { day: smooth.day.slice(from), bytes: smooth.bytes.slice(from) };
  const now = days.day.at(-1) as number;
  const length = now - (days.day[0] as number);
  if (length < LITTLE_DAYS || days.day.length < LITTLE_READ) found.push('little-history');

  const habit = isHabit ? habitOf(jumps, all.day[0] as number, now) : null;
  // Where nobody can tell a curve from a line, both are drawn, one as often as the other.
  const fits = !isCompound
    ? [fitted(days, false)]
    : bend === 'either'
      ? [fitted(days, true), fitted(days, false)]
      : [fitted(days, true)];
  const perDayOfHabit = habit ? habitPerDay(habit) : 0;
  const [{ slopeNow }] = fits as [Fit];
  const likely = slopeNow + perDayOfHabit;
  if (likely < 0) found.push('falls');

  const top = usableBytes * line;
  const horizon = Math.min(MOST_DAYS, Math.max(LEAST_DAYS, ...fits.map((fit) => reachOf(fit, perDayOfHabit, top))));
  const every = Math.max(1, Math.ceil(horizon / STEPS));
  const ahead = Array.from({ length: Math.ceil(horizon / every) }, (_, i) => (i + 1) * every);
  const drawn = Math.min(every, MOST_DRAWN);
  const seasonal = ahead.map((day) => (season ? season.at(now + day) : 0));
  const ways = Array.from({ length: PATHS }, (_, i) => {
    const fit = fits[i % fits.length] as Fit;
    return { fit, slope: fit.slope + fit.doubt * normal(random), habit: habit && drawnHabit(habit, random) };
  });
  const paths = ways.map(({ fit, slope, habit: its }) => {
    const { steps, perRootDay, noise, start, back } = fit;
    const perDraw = perRootDay * Math.sqrt(every / drawn);
    let at = start;
    const come = its ? habitAhead(its, ahead, random) : null;
    return ahead.map((_day, nth) => {
      let by = 0;
      for (let i = 0; i < drawn; i++) by += steps[(random() * steps.length) | 0] as number;
      at += slope * every + perDraw * by;
      const used = back(at + (noise > 0 ? noise * normal(random) : 0)) + (come?.[nth] ?? 0) + (seasonal[nth] as number);
      return used > 0 ? used : 0;
    });
  });

  const dayText = (day: number): string => new Date(day * DAY_MS).toISOString().slice(0, 10);
  const crossings = Float64Array.from(
    paths.map((path) => {
      const first = path.findIndex((used) => used >= top);
      return first < 0 ? Infinity : (ahead[first] as number) - every / 2;
    }),
  ).sort();
  const crosses = ((): Span<string> | null => {
    if ((all.bytes.at(-1) as number) >= top) {
      found.push('over-the-line');
      return [dayText(now), dayText(now), dayText(now)];
    }
    const [low, likely, high] = [LOW, 0.5, HIGH].map((share) => quantile(crossings, share)) as [number, number, number];
    if (!Number.isFinite(likely)) {
      found.push('does-not-cross');
      return null;
    }
    const isOpen = !Number.isFinite(high);
    if (isOpen) found.push('beyond-horizon');
    return [
      dayText(now + Math.floor(low)),
      dayText(now + Math.round(likely)),
      dayText(now + Math.ceil(isOpen ? horizon : high)),
    ];
  })();
  return frozen({
    kind: 'forecast',
    slopeBytesPerYear: spanOf(
      ways.map(({ fit, slope, habit: its }) => slope * fit.perUnit + (its ? habitPerDay(its) : 0)),
      likely,
    ).map((one) => one * YEAR_DAYS) as unknown as Span<number>,
    crosses,
    found,
    jumps: jumps.map(({ day, bytes }: Jump) => ({ on: dayText(day), bytes: Math.round(bytes) })),
    changedOn: changed === null ? null : dayText(changed),
    fan: ahead.map((day, i) => ({
      on: dayText(now + day),
      usedBytes: withWidth(spanOf(paths.map((path) => path[i] as number)).map(Math.round) as unknown as Span<number>),
    })),
  });
}

/** The span of these values; its middle where another is better known. */
function spanOf(values: readonly number[], middle?: number): Span<number> {
  const sorted = Float64Array.from(values).sort();
  return [quantile(sorted, LOW), middle ?? quantile(sorted, 0.5), quantile(sorted, HIGH)];
}

/** A straight line through a history, in bytes or in their logarithms, with what is not known of it. */
interface Fit {
  /** A day, in what it is reckoned in; and in bytes, as it is now. */
  readonly slope: number;
  readonly slopeNow: number;
  /** How far the slope may be off. */
  readonly doubt: number;
  /** Where it stands now. */
  readonly start: number;
  /** What each day brought beyond the slope, and how much of it a √day strays for good. */
  readonly steps: readonly number[];
  readonly perRootDay: number;
  /** What comes back, as a spread. */
  readonly noise: number;
  /** Bytes of one of what it is reckoned in, now. */
  readonly perUnit: number;
  readonly onto: (bytes: number) => number;
  readonly back: (value: number) => number;
}

/**
 * The straight line of a history and how it strays from it.
 *
 * @param isCurve of logarithms: what grows by a share of itself is a straight line in those
 */
function fitted({ day, bytes }: Days, isCurve: boolean): Fit {
  const [onto, back] = isCurve ? [log, Math.exp] : [same, same];
  const days: Days = { day, bytes: bytes.map(onto) };
  const last = bytes.at(-1) as number;
  const length = (day.at(-1) as number) - (day[0] as number);
  const slope = theilSen(days.day, days.bytes);
  const strayed = wanderOf(days, slope);
  const few = student(strayed.degrees) ** 2;
  const least = (LEAST_SPREAD * (isCurve ? 1 : Math.abs(last))) ** 2;
  const [perDay, around] = [SPREAD_UNKNOWN * few * strayed.perDay, Math.max(few * strayed.around, least)];
  // The mean of a slope over a history that strays, and over one that comes back (12 σ² τ / T³ a day, τ about a week).
  const pieces = Math.max(3, Math.min(length / 28, day.length));
  const doubt = Math.sqrt((1.2 * perDay) / length + (12 * 7 * around) / length ** 3) * Math.sqrt(pieces / (pieces - 2));
  const steps = strays(days, slope);
  const perUnit = isCurve ? last : 1;
  return {
    slope,
    slopeNow: slope * perUnit,
    doubt,
    start: levelNow(days, slope, perDay, around),
    steps,
    perRootDay: Math.sqrt(perDay) / Math.sqrt(meanSquare(steps)),
    noise: Math.sqrt(around),
    perUnit,
    onto,
    back,
  };
}

/** Days until so many bytes are likely reached, three times over; as far as anybody plans where they are not. */
function reachOf({ slope, perUnit, start, onto }: Fit, perDayOfHabit: number, top: number): number {
  const perDay = slope + perDayOfHabit / perUnit;
  return perDay > 0 ? ((onto(top) - start) / perDay) * 3 : MOST_DAYS;
}

/** Never without width: what has come to nothing may be a little. */
function withWidth([low, likely, high]: Span<number>): Span<number> {
  return low < high ? [low, likely, high] : [low, likely, high + 1 + Math.round(2 * LEAST_SPREAD * high)];
}

const same = (value: number): number => value;

/** What each day brought beyond the slope, per √day; centred. */
function strays({ day, bytes }: Days, slope: number): number[] {
  const steps = day.slice(1).map((one, i) => {
    const gap = one - (day[i] as number);
    return ((bytes[i + 1] as number) - (bytes[i] as number) - slope * gap) / Math.sqrt(gap);
  });
  const mean = steps.reduce((a, b) => a + b, 0) / Math.max(1, steps.length);
  const centred = steps.map((step) => step - mean);
  // Where no two differ it is not known which way the next goes.
  return centred.some((step) => step !== 0) ? centred : [-1, 1];
}

/** How much wider a span is for a spread read off so few. */
function student(degrees: number): number {
  return STUDENT[Math.max(1, Math.round(degrees)) - 1] ?? 1;
}

function meanSquare(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length);
}

/** Where it stands now: the last reading where it strays for good, the middle of the last ones where it comes back. */
function levelNow({ day, bytes }: Days, slope: number, perDay: number, around: number): number {
  const last = day.at(-1) as number;
  const most = Math.max(1, Math.floor(day.length / 4));
  const few =
    perDay === 0 ? (around === 0 ? 1 : most) : Math.min(most, Math.max(1, Math.round(Math.sqrt(around / perDay))));
  return median(bytes.slice(-few).map((one, i) => one + slope * (last - (day[day.length - few + i] as number))));
}

/** A draw from the normal distribution, by Box and Muller 1958. */
function normal(random: Random): number {
  return sqrt(-2 * log(1 - random())) * cos(2 * PI * random());
}
