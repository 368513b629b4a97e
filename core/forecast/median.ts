/** The middle of the values in order, or the mean of the two in the middle; NaN of none. */
export function median(values: readonly number[]): number {
  return quantile(Float64Array.from(values).sort(), 0.5);
}

/**
 * The value below which a share of the others lie, between two by their distance (type 7 of Hyndman and Fan 1996, as in most
 * libraries).
 *
 * @param sorted in rising order
 * @param share 0 to 1
 */
export function quantile(sorted: ArrayLike<number>, share: number): number {
  const at = (sorted.length - 1) * share;
  const [low, high] = [sorted[Math.floor(at)] ?? NaN, sorted[Math.ceil(at)] ?? NaN];
  const part = at - Math.floor(at);
  return part === 0 || low === high ? low : low + (high - low) * part;
}
