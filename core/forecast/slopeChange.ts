import type { Days } from './byDay';
import { BY_CHANCE, leftByLine, part } from './byLine';
import { yearlyWave } from './season';
import { theilSen } from './theilSen';
import { wanderOf } from './wander';

/** So many days must lie on either side of a change. */
const FEWEST_DAYS = 42;
/** The slope afterwards differs at least by such a share of the larger of the two. */
const LEAST_SHARE = 0.3;

/**
 * The day since which use grows at another rate, as when somebody new came: where the sum of what each day brings beyond the
 * usual strays farthest, when that is more than chance gives (a CUSUM test); `null` when it has not changed. A yearly wave that fits as
 * well is a wave.
 */
export function slopeChangeOf(days: Days): number | null {
  const { day, bytes } = days;
  const [first, last] = [day[0] ?? 0, day.at(-1) ?? 0];
  if (last - first < 2 * FEWEST_DAYS || day.length < FEWEST_DAYS) return null;
  const slope = ((bytes.at(-1) as number) - (bytes[0] as number)) / (last - first);
  let farthest = { at: -1, by: 0 };
  for (const [i, one] of day.entries()) {
    const by = Math.abs((bytes[i] as number) - (bytes[0] as number) - slope * (one - first));
    if (by > farthest.by && one - first >= FEWEST_DAYS && last - one >= FEWEST_DAYS) farthest = { at: i, by };
  }
  if (farthest.at < 0) return null;
  const [before, after] = [part(days, 0, farthest.at + 1), part(days, farthest.at, day.length)];
  const [slopeBefore, slopeAfter] = [theilSen(before.day, before.bytes), theilSen(after.day, after.bytes)];
  if (Math.abs(slopeAfter - slopeBefore) < LEAST_SHARE * Math.max(Math.abs(slopeAfter), Math.abs(slopeBefore)))
    return null;
  // What it strays by within each part is chance; what comes back weighs like a month of it.
  const [a, b] = [wanderOf(before, slopeBefore), wanderOf(after, slopeAfter)];
  const share = (of: Days): number => ((of.day.at(-1) ?? 0) - (of.day[0] ?? 0)) / (last - first);
  const perDay = share(before) * (a.perDay + (2 * a.around) / 28) + share(after) * (b.perDay + (2 * b.around) / 28);
  if (farthest.by <= BY_CHANCE * Math.sqrt(perDay * (last - first))) return null;
  const broken = leftByLine(before, slopeBefore) + leftByLine(after, slopeAfter);
  const wave = yearlyWave(days);
  const straight = leftByLine(days, theilSen(day, bytes));
  return wave && last - first > 300 && straight * (1 - wave.share) < broken ? null : (day[farthest.at] as number);
}
