import { YEAR_DAYS } from '../quantity/year';
import type { Days } from './byDay';
import { habitOf, habitPerDay, type Habit } from './habit';
import { jumpsOf, withoutJumps, type Jump } from './jumps';
import { modelsOf, type Model, type Weighed } from './models';
import { seasonOf, type Season } from './season';
import { likeliest, type Heard } from './strayingLine';

/** So many jumps are a habit. */
const HABIT = 3;
/** Nobody plans further. */
export const MOST_DAYS = 15 * YEAR_DAYS;

/** A history as it was looked at: what came at once, its season, and what else it may be doing. */
export interface LookedAt {
  readonly jumps: readonly Jump[];
  readonly isHabit: boolean;
  readonly habit: Habit | null;
  readonly season: Season | null;
  readonly weighed: readonly Weighed[];
  /** The last day that was read. */
  readonly now: number;
  /** Bytes a day now, by what is likeliest. */
  readonly likely: number;
  /** Days until so many bytes are reached by whichever is slowest; as far as anybody plans where one never does. */
  readonly daysTo: (bytes: number) => number;
}

/** @param all at least two days */
export function lookedAt(all: Days): LookedAt {
  const jumps = jumpsOf(all);
  const isHabit = jumps.length >= HABIT;
  const level = withoutJumps(all, jumps);
  const season = seasonOf(level);
  const smooth: Days = season
    ? { day: level.day, bytes: level.bytes.map((bytes, i) => bytes - season.at(level.day[i] as number)) }
    : level;
  const weighed = modelsOf(smooth, { isLine: isHabit, isSmoothed: season !== null });
  const now = smooth.day.at(-1) as number;
  const habit = isHabit ? habitOf(jumps, all.day[0] as number, now) : null;
  const more = habit ? habitPerDay(habit) : 0;
  return {
    jumps,
    isHabit,
    habit,
    season,
    weighed,
    now,
    likely: growthOf((weighed[0] as Weighed).model) + more,
    daysTo: (bytes) => Math.max(...weighed.map(({ model }) => daysBy(model, more, bytes))),
  };
}

/** Bytes a day, now. */
function growthOf(model: Model): number {
  const { rate, level } = likeliest<Pick<Heard, 'evidence' | 'level' | 'rate'>>(model.heard);
  return model.kind === 'curve' ? rate * Math.exp(level) : rate;
}

function daysBy(model: Model, more: number, bytes: number): number {
  const { rate, level } = likeliest<Pick<Heard, 'evidence' | 'level' | 'rate'>>(model.heard);
  const [perDay, left] =
    model.kind === 'curve' ? [rate + more / Math.exp(level), Math.log(bytes) - level] : [rate + more, bytes - level];
  return perDay > 0 ? left / perDay : MOST_DAYS;
}
