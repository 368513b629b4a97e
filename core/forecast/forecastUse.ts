import { YEAR_DAYS } from '../quantity/year';
import { DAY_MS } from '../quantity/days';
import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import { byDay, type Days, type Reading } from './byDay';
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
  const changed = slopeChangeOf(smooth);
  if (changed !== null) found.push('slope-changed');
  const from = changed === null ? 0 : smooth.day.indexOf(changed);
  const days: Days = { day: smooth.day.slice(from), bytes: smooth.bytes.slice(from) };
  const now = days.day.at(-1) as number;
  const length = now - (days.day[0] as number);
  if (length < LITTLE_DAYS || days.day.length < LITTLE_READ) found.push('little-history');

  const slope = theilSen(days.day, days.bytes);
  const habit = isHabit ? habitOf(jumps, all.day[0] as number, now) : null;
  const perDayOfHabit = habit ? habitPerDay(habit) : 0;
  const likely = slope + perDayOfHabit;
  const strayed = wanderOf(days, slope);
  const [perDay, around] = [SPREAD_UNKNOWN * strayed.perDay, strayed.around];
  // The mean of a slope over a history that strays, and over one that comes back (12 σ² τ / T³ a day, τ about a week).
  const pieces = Math.max(3, length / 28);
  const doubt = Math.sqrt((1.2 * perDay) / length + (12 * 7 * around) / length ** 3) * Math.sqrt(pieces / (pieces - 2));
  const ways = Array.from({ length: PATHS }, () => ({
    slope: slope + doubt * normal(random),
    habit: habit && drawnHabit(habit, random),
  }));
  if (likely < 0) found.push('falls');

  const top = usableBytes * line;
  const reach = likely > 0 ? ((top - (days.bytes.at(-1) as number)) / likely) * 3 : MOST_DAYS;
  const horizon = Math.min(MOST_DAYS, Math.max(LEAST_DAYS, reach));
  const every = Math.max(1, Math.ceil(horizon / STEPS));
  const ahead = Array.from({ length: Math.ceil(horizon / every) }, (_, i) => (i + 1) * every);
  const steps = strays(days, slope);
  const stray = Math.sqrt(meanSquare(steps));
  const scale = stray === 0 ? 0 : Math.sqrt(perDay) / stray;
  const drawn = Math.min(every, MOST_DRAWN);
  const perDraw = scale * Math.sqrt(every / drawn);
  const noise = Math.sqrt(around);
  const start = levelNow(days, slope, perDay, around);
  const seasonal = ahead.map((day) => (season ? season.at(now + day) : 0));
  const paths = ways.map((way) => {
    let at = start;
    const come = way.habit ? habitAhead(way.habit, ahead, random) : null;
    return ahead.map((_day, nth) => {
      let by = 0;
      for (let i = 0; i < drawn; i++) by += steps[(random() * steps.length) | 0] as number;
      at += way.slope * every + perDraw * by;
      const used = at + (come?.[nth] ?? 0) + (noise > 0 ? noise * normal(random) : 0) + (seasonal[nth] as number);
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
      ways.map((way) => way.slope + (way.habit ? habitPerDay(way.habit) : 0)),
      likely,
    ).map((one) => one * YEAR_DAYS) as unknown as Span<number>,
    crosses,
    found,
    jumps: jumps.map(({ day, bytes }: Jump) => ({ on: dayText(day), bytes: Math.round(bytes) })),
    changedOn: changed === null ? null : dayText(changed),
    fan: ahead.map((day, i) => ({
      on: dayText(now + day),
      usedBytes: spanOf(paths.map((path) => path[i] as number)).map(Math.round) as unknown as Span<number>,
    })),
  });
}

/** The span of these values; its middle where another is better known. */
function spanOf(values: readonly number[], middle?: number): Span<number> {
  const sorted = Float64Array.from(values).sort();
  return [quantile(sorted, LOW), middle ?? quantile(sorted, 0.5), quantile(sorted, HIGH)];
}

/** What each day brought beyond the slope, per √day; centred. */
function strays({ day, bytes }: Days, slope: number): number[] {
  const steps = day.slice(1).map((one, i) => {
    const gap = one - (day[i] as number);
    return ((bytes[i + 1] as number) - (bytes[i] as number) - slope * gap) / Math.sqrt(gap);
  });
  const mean = steps.reduce((a, b) => a + b, 0) / Math.max(1, steps.length);
  return steps.length === 0 ? [0] : steps.map((step) => step - mean);
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
