import { byDay, part, type Days, type Reading } from './byDay';
import { drawnFrom } from './drawnFrom';
import { lookedAt } from './lookedAt';
import type { Random } from './random';
import { spanOf } from './span';

/** So often was asked, and so often what came lay within the span. */
export interface HeldBefore {
  readonly of: number;
  readonly held: number;
}

/** A quarter of a year, and how near to its end a reading counts for it. */
const [QUARTER_DAYS, NEAR_DAYS] = [91, 15];
/** As many quarters are looked back; of fewer nothing is said. */
const [MOST_ASKED, FEWEST_ASKED] = [11, 3];
/** Readings there must have been, over so many days, to be asked. */
const [LEAST_READ, LEAST_DAYS] = [6, 56];
const [PATHS, STEPS] = [200, 6];

/**
 * Asks the same on the last day of each past quarter, with what was read until then, for the quarter that followed, and holds
 * the span against what was read (a rolling origin: Tashman, International Journal of Forecasting 16, 2000).
 *
 * @returns `null` where fewer than three quarters can be asked about
 */
export function heldBefore(readings: readonly Reading[], random: Random): HeldBefore | null {
  const all = byDay(readings);
  if (all.day.length < LEAST_READ) return null;
  const last = all.day.at(-1) as number;
  const asked = Array.from({ length: MOST_ASKED }, (_, i) => last - (i + 1) * QUARTER_DAYS).flatMap((end) => {
    const until = all.day.findLastIndex((day) => day <= end);
    const came = nearest(all, end + QUARTER_DAYS);
    if (until + 1 < LEAST_READ || came === null || came <= until) return [];
    const past = part(all, 0, until + 1);
    if ((past.day.at(-1) as number) - (past.day[0] as number) < LEAST_DAYS) return [];
    const seen = lookedAt(past);
    const step = ((all.day[came] as number) - seen.now) / STEPS;
    const ahead = Array.from({ length: STEPS }, (_, i) => (i + 1) * step);
    const [low, , high] = spanOf(drawnFrom(seen, ahead, PATHS, random).map(({ used }) => used.at(-1) as number));
    const truth = all.bytes[came] as number;
    return [truth >= low && truth <= high];
  });
  return asked.length < FEWEST_ASKED ? null : { of: asked.length, held: asked.filter(Boolean).length };
}

/** The reading nearest to a day, where one is near. */
function nearest({ day }: Days, to: number): number | null {
  const off = (i: number): number => Math.abs((day[i] as number) - to);
  const best = day.reduce((found, _day, i) => (off(i) < off(found) ? i : found), 0);
  return off(best) <= NEAR_DAYS ? best : null;
}
