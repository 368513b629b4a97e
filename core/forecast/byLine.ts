import type { Days } from './byDay';

/** The largest a sum of differences gets by chance in 1 of 100 (Kolmogorov's limit of the bridge). */
export const BY_CHANCE = 1.63;

/** The sum of squares a straight line of this slope leaves of a history, bytes². */
export function leftByLine({ day, bytes }: Days, slope: number): number {
  const level = bytes.reduce((sum, one, i) => sum + one - slope * (day[i] as number), 0) / Math.max(1, bytes.length);
  return bytes.reduce((sum, one, i) => sum + (one - slope * (day[i] as number) - level) ** 2, 0);
}

/** Some days of a history, from one place in it to before another. */
export function part({ day, bytes }: Days, from: number, to: number): Days {
  return { day: day.slice(from, to), bytes: bytes.slice(from, to) };
}
