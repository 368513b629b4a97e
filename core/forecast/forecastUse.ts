import { YEAR_DAYS } from '../quantity/year';
import { DAY_MS } from '../quantity/days';
import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import { byDay, type Reading } from './byDay';
import { drawnFrom } from './drawnFrom';
import type { Jump } from './jumps';
import { lookedAt, MOST_DAYS } from './lookedAt';
import type { Model } from './models';
import type { Random } from './random';
import { spanOf, type Span } from './span';

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

/** Shown at least. */
const LEAST_DAYS = 2 * YEAR_DAYS;
const PATHS = 500;
const STEPS = 120;
/** No page shows to the byte: what is read strays by at least such a share of itself. */
const LEAST_SPREAD = 0.0005;
/** Below so many days, or days read, a slope is a guess. */
const [LITTLE_DAYS, LITTLE_READ] = [28, 10];
/** From here on what a model says is said to people. */
const SAID = 0.5;
/**
 * When a pool crosses its line, from what was read of it: jumps told apart, the season where three years show one, and several
 * models of what use does, each as likely as it foretold the readings (`models`); the span by simulating on from today with all
 * that is not known of them.
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
  const seen = lookedAt(all);
  const { jumps, isHabit, season, weighed, now, likely } = seen;
  const weightOf = (kind: Model['kind']): number => weighed.find(({ model }) => model.kind === kind)?.weight ?? 0;
  const broken = weighed.flatMap(({ model, weight }) => (model.kind === 'broken' && weight >= SAID ? [model] : []))[0];
  const changed = broken?.since ?? null;
  const counts = changed === null ? all.day : all.day.filter((day) => day >= changed);
  const isLittle = now - (counts[0] as number) < LITTLE_DAYS || counts.length < LITTLE_READ;
  const said: readonly (readonly [Finding, boolean])[] = [
    ['jump', jumps.length > 0 && !isHabit],
    ['jumps-again-and-again', isHabit],
    ['season', season !== null || weightOf('wave') >= SAID],
    ['slope-changed', broken !== undefined],
    ['compound', weightOf('curve') >= SAID],
    ['drifts', weightOf('drift') >= SAID],
    ['little-history', isLittle],
    ['falls', likely < 0],
  ];
  const found = said.flatMap(([finding, isSo]) => (isSo ? [finding] : []));

  const top = usableBytes * line;
  const horizon = Math.min(MOST_DAYS, Math.max(LEAST_DAYS, 3 * seen.daysTo(top)));
  const every = Math.max(1, Math.ceil(horizon / STEPS));
  const ahead = Array.from({ length: Math.ceil(horizon / every) }, (_, i) => (i + 1) * every);
  const drawn = drawnFrom(seen, ahead, PATHS, random);
  const paths = drawn.map(({ used }) => used);

  const dayText = (day: number): string => new Date(day * DAY_MS).toISOString().slice(0, 10);
  const crossings = paths.map((path) => {
    const first = path.findIndex((used) => used >= top);
    return first < 0 ? Infinity : (ahead[first] as number) - every / 2;
  });
  const crosses = ((): Span<string> | null => {
    if ((all.bytes.at(-1) as number) >= top) {
      found.push('over-the-line');
      return [dayText(now), dayText(now), dayText(now)];
    }
    const [low, likely, high] = spanOf(crossings);
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

/** Never without width: what has come to nothing may be a little. */
function withWidth([low, likely, high]: Span<number>): Span<number> {
  return low < high ? [low, likely, high] : [low, likely, high + 1 + Math.round(2 * LEAST_SPREAD * high)];
}
