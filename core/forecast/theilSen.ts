import { median } from './median';

/** More points than this are drawn together first: pairs grow with the square. */
const MOST_POINTS = 300;

/**
 * The slope of a straight line through points, as the median of the slopes of all pairs (Theil 1950, Sen 1968): up to 29 % of
 * the points may be wild without moving it. Bytes a day where x is days and y bytes. More than 300 points are
 * first drawn together in stretches by their medians.
 *
 * @returns 0 for fewer than two different x
 */
export function theilSen(x: readonly number[], y: readonly number[]): number {
  if (x.length > MOST_POINTS) {
    const size = Math.ceil(x.length / MOST_POINTS);
    const drawn = (of: readonly number[]): number[] =>
      Array.from({ length: Math.ceil(of.length / size) }, (_, i) => median(of.slice(i * size, (i + 1) * size)));
    return theilSen(drawn(x), drawn(y));
  }
  const slopes: number[] = [];
  for (let i = 0; i < x.length; i++)
    for (let j = i + 1; j < x.length; j++)
      if (x[j] !== x[i]) slopes.push(((y[j] as number) - (y[i] as number)) / ((x[j] as number) - (x[i] as number)));
  return slopes.length === 0 ? 0 : median(slopes);
}
