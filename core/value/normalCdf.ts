/**
 * Φ: the chance that a standard normal variable is below x. Abramowitz and Stegun 7.1.26 for the error function, absolute
 * error below 1.5e-7.
 */
export function normalCdf(x: number): number {
  const z = Math.abs(x) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * z);
  const tail =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-z * z);
  return x >= 0 ? 1 - tail / 2 : tail / 2;
}
