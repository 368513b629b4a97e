import type { Days } from './byDay';

/** How a history strays from its line. */
export interface Wander {
  /** What is added to the variance with each day, bytes² a day: it strays and does not come back. */
  readonly perDay: number;
  /** The variance around the line that does come back, bytes². */
  readonly around: number;
  /** How many readings that were told apart it rests on: what little there is leaves more open. */
  readonly degrees: number;
}

/** The nearest distance at which it is looked how far two days lie apart beyond the slope, in days; each further one is twice as far. */
const NEAREST = 7;
/** Pairs whose distance lies within so many times a distance, to both sides, are taken for as far apart. */
const WITHIN = Math.SQRT2;
/** Fewer pairs than these say nothing. */
const FEWEST_PAIRS = 5;

/** The spread at the farthest distance is less than so many times the nearest's: it comes back. */
const FLAT = 2;

interface Point {
  readonly lag: number;
  readonly spread: number;
}

/**
 * Tells what strays for good from what comes back, by how the spread between two days grows with their distance (a
 * structure function; the local level model of Harvey 1989 by the method of moments): V(h) = 2 · around + perDay · h. However far
 * apart readings are: pairs are taken together that are about as far apart. Where there are too few for that, what each reading
 * strays from the one before it is all there is.
 *
 * @param slope bytes a day, already taken out of what is compared
 */
export function wanderOf(days: Days, slope: number): Wander {
  const { day } = days;
  const length = (day.at(-1) ?? 0) - (day[0] ?? 0);
  const points = pointsOf(days, slope, length);
  const degrees = Math.max(1, Math.min(day.length - 2, Math.round(length / NEAREST)));
  const [only] = points;
  if (!only) return { perDay: fromStepToStep(days, slope), around: 0, degrees };
  if (points.length === 1) return { perDay: only.spread / only.lag, around: 0, degrees };
  // A line through the points. Where the spread grows with the distance, far ones weigh less: of them there are fewer apart
  // from one another. Where it hardly does, all weigh the same: near ones would make a slope of chance.
  const isFlat = (points.at(-1)?.spread ?? 0) < FLAT * only.spread;
  const weights = points.map(({ lag }) => (isFlat ? 1 : 1 / lag ** 2));
  const weight = weights.reduce((a, b) => a + b, 0);
  const mean = (of: (point: Point) => number): number =>
    points.reduce((sum, point, i) => sum + (weights[i] as number) * of(point), 0) / weight;
  const [x, y] = [mean(({ lag }) => lag), mean(({ spread }) => spread)];
  const perDay = Math.max(0, mean(({ lag, spread }) => (lag - x) * (spread - y)) / mean(({ lag }) => (lag - x) ** 2));
  return { perDay, around: Math.max(0, (y - perDay * x) / 2), degrees };
}

/** The spread by distance, from the nearest that is read often enough to a quarter of the history. */
function pointsOf({ day, bytes }: Days, slope: number, length: number): readonly Point[] {
  const beyond = bytes.map((one, i) => one - slope * ((day[i] as number) - (day[0] as number)));
  const farthest = Math.max(NEAREST, length / 4);
  const found: Point[] = [];
  for (let lag = NEAREST; lag <= farthest; lag *= 2) {
    let [sum, gaps, count] = [0, 0, 0];
    let from = 0;
    for (let i = 1; i < day.length; i++) {
      while ((day[i] as number) - (day[from] as number) >= lag * WITHIN) from++;
      for (let j = from; j < i; j++) {
        const gap = (day[i] as number) - (day[j] as number);
        if (gap < lag / WITHIN) break;
        sum += ((beyond[i] as number) - (beyond[j] as number)) ** 2;
        gaps += gap;
        count++;
      }
    }
    if (count < FEWEST_PAIRS) continue;
    const apart = gaps / count;
    // The slope was found on the same days: it takes a share h/T of the spread with it.
    found.push({ lag: apart, spread: sum / count / Math.max(0.2, 1 - apart / Math.max(length, 1)) });
  }
  return found;
}

/** What strays from one reading to the next, a day; of two readings all that lies between them. */
function fromStepToStep({ day, bytes }: Days, slope: number): number {
  const steps = day.slice(1).map((one, i) => {
    const gap = one - (day[i] as number);
    const by = (bytes[i + 1] as number) - (bytes[i] as number);
    return { gap, squared: (day.length > 2 ? by - slope * gap : by) ** 2 };
  });
  const free = Math.max(1, steps.length - 1);
  return steps.reduce((sum, { gap, squared }) => sum + squared / gap, 0) / free;
}
