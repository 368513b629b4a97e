import { gammaCdf, logGamma } from './gammaLaw';

/** A rate that is a gamma variable with this chance: mean shape ÷ rate. */
export interface GammaPart {
  readonly weight: number;
  readonly shape: number;
  readonly rate: number;
}

/**
 * What is thought of a rate after so many were counted in so long a time, Poisson: each part is sharpened by itself, and weighs
 * by how likely it made the count (Gelman et al., Bayesian Data Analysis, 2.4 and 2.6).
 */
export function mixtureAfter(parts: readonly GammaPart[], count: number, time: number): readonly GammaPart[] {
  const logs = parts.map(
    ({ weight, shape, rate }) =>
      Math.log(weight) +
      logGamma(shape + count) -
      logGamma(shape) +
      shape * Math.log(rate) -
      (shape + count) * Math.log(rate + time),
  );
  const most = Math.max(...logs);
  const whole = logs.reduce((sum, one) => sum + Math.exp(one - most), 0);
  return parts.map(({ shape, rate }, i) => ({
    weight: Math.exp((logs[i] as number) - most) / whole,
    shape: shape + count,
    rate: rate + time,
  }));
}

/** The mean rate. */
export function mixtureMean(parts: readonly GammaPart[]): number {
  return parts.reduce((sum, { weight, shape, rate }) => sum + (weight * shape) / rate, 0);
}

/** The rate that is not exceeded with this chance, 0 < chance < 1. */
export function mixtureQuantile(parts: readonly GammaPart[], chance: number): number {
  const below = (x: number): number =>
    parts.reduce((sum, { weight, shape, rate }) => sum + weight * gammaCdf(shape, rate * x), 0);
  let [low, high] = [0, mixtureMean(parts)];
  while (below(high) < chance) high *= 2;
  while (high - low > 1e-13 * high) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (below(middle) < chance) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How likely each count is by one part over this time, from none to so many: the negative binomial law. */
export function countsOf({ shape, rate }: Omit<GammaPart, 'weight'>, time: number, upTo: number): readonly number[] {
  const chance = time / (rate + time);
  const counts = [(rate / (rate + time)) ** shape];
  for (let k = 1; k <= upTo; k++) counts.push(((counts[k - 1] as number) * (shape + k - 1) * chance) / k);
  return counts;
}
