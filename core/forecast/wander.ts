import type { Days } from './byDay';

/** How a history strays from its line. */
export interface Wander {
  /** What is added to the variance with each day, bytes² a day: it strays and does not come back. */
  readonly perDay: number;
  /** The variance around the line that does come back, bytes². */
  readonly around: number;
}

/** Distances at which it is looked how far two days lie apart beyond the slope, in days. */
const LAGS = [7, 14, 28, 56, 112] as const;

/** The spread at the farthest distance is less than so many times the nearest's: it comes back. */
const FLAT = 2;

/**
 * Tells what strays for good from what comes back, by how the spread between two days grows with their distance (a
 * structure function; the local level model of Harvey 1989 by the method of moments): V(h) = 2 · around + perDay · h.
 *
 * @param slope bytes a day, already taken out of what is compared
 */
export function wanderOf({ day, bytes }: Days, slope: number): Wander {
  const first = day[0] ?? 0;
  const length = (day.at(-1) ?? 0) - first;
  const at = new Map(day.map((one, i) => [one, (bytes[i] as number) - slope * (one - first)]));
  const points = LAGS.filter((lag) => lag <= Math.max(LAGS[0], length / 4)).flatMap((lag) => {
    let sum = 0;
    let count = 0;
    for (const [one, value] of at) {
      const before = at.get(one - lag);
      if (before === undefined) continue;
      sum += (value - before) ** 2;
      count++;
    }
    // The slope was found on the same days: it takes a share h/T of the spread with it.
    const kept = Math.max(0.2, 1 - lag / Math.max(length, 1));
    return count < 5 ? [] : [{ lag, spread: sum / count / kept }];
  });
  const [only] = points;
  if (!only) return { perDay: 0, around: 0 };
  if (points.length === 1) return { perDay: only.spread / only.lag, around: 0 };
  // A line through the points. Where the spread grows with the distance, far ones weigh less: of them there are fewer apart
  // from one another. Where it hardly does, all weigh the same: near ones would make a slope of chance.
  const isFlat = (points.at(-1)?.spread ?? 0) < FLAT * only.spread;
  const weights = points.map(({ lag }) => (isFlat ? 1 : 1 / lag ** 2));
  const weight = weights.reduce((a, b) => a + b, 0);
  const mean = (of: (point: { lag: number; spread: number }) => number): number =>
    points.reduce((sum, point, i) => sum + (weights[i] as number) * of(point), 0) / weight;
  const [x, y] = [mean(({ lag }) => lag), mean(({ spread }) => spread)];
  const perDay = Math.max(0, mean(({ lag, spread }) => (lag - x) * (spread - y)) / mean(({ lag }) => (lag - x) ** 2));
  return { perDay, around: Math.max(0, (y - perDay * x) / 2) };
}
