import { YEAR_DAYS } from '../quantity/year';
import type { Days } from './byDay';
import { BY_CHANCE, leftByLine, part } from './byLine';
import { median } from './median';
import { theilSen } from './theilSen';
import { wanderOf } from './wander';

/** Growth by less than such a share a year is a straight line for as long as anybody plans. */
const LEAST_RATE = 0.08;
/** So many days read, over so long, tell a curve from a line. */
const [FEWEST_READ, FEWEST_DAYS] = [6, 300];
/** The curve leaves less than such a share of what the straight line leaves (sum of squares). */
const BETTER = 0.6;
/** A line that breaks has two more numbers to fit by: the curve may leave so many times as much. */
const THAN_BROKEN = 1.15;
/** From half of what chance gives on it may be none. */
const MAYBE = 0.5;
/** From so many readings on a curve is told from a line that broke. */
const TELLING = 42;

/** How a history bends: as a straight line, as growth by a share of itself, or so that nobody can tell. */
export type Bend = 'line' | 'either' | 'curve';

/**
 * Whether use grows by a share of itself, ever faster: a curve of constant growth fits clearly better than a straight line, as
 * well as one that breaks, and bends farther than the history strays by chance. A straight line through such a history comes
 * always too late.
 *
 * @param changed where a line would break, by the day; `null` where it would not
 */
export function bendOf(days: Days, changed: number | null): Bend {
  const { day, bytes } = days;
  const length = (day.at(-1) ?? 0) - (day[0] ?? 0);
  if (day.length < FEWEST_READ || length < FEWEST_DAYS || bytes.some((one) => one <= 0)) return 'line';
  const logs = bytes.map(Math.log);
  const rate = theilSen(day, logs);
  if (rate * YEAR_DAYS < LEAST_RATE) return 'line';
  const level = median(logs.map((one, i) => one - rate * (day[i] as number)));
  const off = bytes.map((one, i) => one - Math.exp(level + rate * (day[i] as number)));
  const curve = off.reduce((sum, one) => sum + one ** 2, 0);
  if (curve > BETTER * leftBy(days)) return 'line';
  const at = changed === null ? -1 : day.indexOf(changed);
  if (at > 0) {
    if (curve > THAN_BROKEN * (leftBy(part(days, 0, at + 1)) + leftBy(part(days, at, day.length)))) return 'line';
  }
  const chord = ((bytes.at(-1) as number) - (bytes[0] as number)) / length;
  const bend = Math.max(
    ...bytes.map((one, i) => Math.abs(one - (bytes[0] as number) - chord * ((day[i] as number) - (day[0] as number)))),
  );
  const { perDay, around } = wanderOf({ day, bytes: off }, 0);
  const byChance = BY_CHANCE * Math.sqrt((perDay + (2 * around) / 28) * length);
  if (bend <= MAYBE * byChance) return 'line';
  return bend <= byChance || day.length < TELLING ? 'either' : 'curve';
}

/** What the robust straight line leaves. */
function leftBy(days: Days): number {
  return leftByLine(days, theilSen(days.day, days.bytes));
}
