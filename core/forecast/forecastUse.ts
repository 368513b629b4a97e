import { YEAR_DAYS } from '../quantity/year';
import { DAY_MS } from '../quantity/days';
import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import { byDay, type Days, type Reading } from './byDay';
import { drawnHabit, habitAhead, habitOf, habitPerDay } from './habit';
import { jumpsOf, withoutJumps, type Jump } from './jumps';
import { modelsOf, type Model } from './models';
import { quantile } from './median';
import type { Random } from './random';
import { seasonOf } from './season';
import { drawnAhead } from './strayingLine';

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
  | 'drifts'
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
/** No page shows to the byte: what is read strays by at least such a share of itself. */
const LEAST_SPREAD = 0.0005;
/** So many jumps are a habit. */
const HABIT = 3;
/** Below so many days, or days read, a slope is a guess. */
const [LITTLE_DAYS, LITTLE_READ] = [28, 10];
/** From here on what a model says is said to people. */
const SAID = 0.5;
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
  const weighed = modelsOf(smooth, { isLine: isHabit, isSmoothed: season !== null });
  const weightOf = (kind: Model['kind']): number => weighed.find(({ model }) => model.kind === kind)?.weight ?? 0;
  const broken = weighed.flatMap(({ model, weight }) => (model.kind === 'broken' && weight >= SAID ? [model] : []))[0];
  if (broken) found.push('slope-changed');
  if (weightOf('curve') >= SAID) found.push('compound');
  if (weightOf('drift') >= SAID) found.push('drifts');
  if (weightOf('wave') >= SAID) found.push('season');
  const changed = broken?.since ?? null;
  const now = smooth.day.at(-1) as number;
  const counts = changed === null ? smooth.day : smooth.day.filter((day) => day >= changed);
  if (now - (counts[0] as number) < LITTLE_DAYS || counts.length < LITTLE_READ) found.push('little-history');

  const habit = isHabit ? habitOf(jumps, all.day[0] as number, now) : null;
  const perDayOfHabit = habit ? habitPerDay(habit) : 0;
  const ways = weighed.map(({ model }) => wayOf(now, model));
  const likely = (ways[0] as Way).slopeNow + perDayOfHabit;
  if (likely < 0) found.push('falls');

  const top = usableBytes * line;
  const horizon = Math.min(MOST_DAYS, Math.max(LEAST_DAYS, ...ways.map((way) => way.reach(perDayOfHabit, top))));
  const every = Math.max(1, Math.ceil(horizon / STEPS));
  const ahead = Array.from({ length: Math.ceil(horizon / every) }, (_, i) => (i + 1) * every);
  const seasonal = ahead.map((day) => (season ? season.at(now + day) : 0));
  const drawn = shared(weighed.map(({ weight }) => weight)).map((nth) => {
    const its = habit && drawnHabit(habit, random);
    const { slope, used } = (ways[nth] as Way).drawn(ahead, random);
    const come = its ? habitAhead(its, ahead, random) : null;
    return {
      slope: slope + (its ? habitPerDay(its) : 0),
      used: used.map((one, i) => Math.max(0, one + (come?.[i] ?? 0) + (seasonal[i] as number))),
    };
  });
  const paths = drawn.map(({ used }) => used);

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
      drawn.map(({ slope }) => slope),
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

/** One way use may go on, as a model has it. */
interface Way {
  /** Bytes a day, now. */
  readonly slopeNow: number;
  /** Days until so many bytes are likely reached, three times over; as far as anybody plans where they are not. */
  readonly reach: (perDayMore: number, top: number) => number;
  readonly drawn: (
    ahead: readonly number[],
    random: Random,
  ) => { readonly slope: number; readonly used: readonly number[] };
}

function wayOf(now: number, model: Model): Way {
  const { heard } = model;
  const { rate, level } = heard.reduce((a, b) => (b.evidence > a.evidence ? b : a));
  const isCurve = model.kind === 'curve';
  const [onto, back] = isCurve ? [Math.log, Math.exp] : [same, same];
  const perUnit = isCurve ? back(level) : 1;
  const wave = (day: number): number => (model.kind === 'wave' ? model.wave.at(now + day) : 0);
  return {
    slopeNow: rate * perUnit,
    reach: (more, top) => reached(rate + more / perUnit, onto(top) - level),
    drawn: (ahead, random) => {
      const { slope, used } = drawnAhead(heard, ahead, random);
      return { slope: slope * perUnit, used: used.map((one, i) => back(one) + wave(ahead[i] as number)) };
    },
  };
}

const same = (value: number): number => value;

function reached(perDay: number, left: number): number {
  return perDay > 0 ? (left / perDay) * 3 : MOST_DAYS;
}

/** Which of some each path is drawn by: as many by each as it weighs. */
function shared(weights: readonly number[]): readonly number[] {
  let sum = 0;
  const ends = weights.map((weight) => (sum += weight));
  return Array.from({ length: PATHS }, (_, i) => {
    const at = ((i + 0.5) / PATHS) * sum;
    return Math.max(
      0,
      ends.findIndex((end) => at < end),
    );
  });
}

/** Never without width: what has come to nothing may be a little. */
function withWidth([low, likely, high]: Span<number>): Span<number> {
  return low < high ? [low, likely, high] : [low, likely, high + 1 + Math.round(2 * LEAST_SPREAD * high)];
}
