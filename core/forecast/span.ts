import { quantile } from './median';

/** Low, likely and high: four times out of five it lies between the outer two. */
export type Span<T> = readonly [low: T, likely: T, high: T];

/** The ends of the span: one in ten lies below, one above. */
const [LOW, HIGH] = [0.1, 0.9];

/** The span of these values; its middle where another is better known. */
export function spanOf(values: readonly number[], middle?: number): Span<number> {
  const sorted = Float64Array.from(values).sort();
  const [low, high] = [quantile(sorted, LOW), quantile(sorted, HIGH)];
  return [low, Math.min(high, Math.max(low, middle ?? quantile(sorted, 0.5))), high];
}
