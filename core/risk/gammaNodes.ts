import { logGamma } from './gammaLaw';

/** One point that stands for a part of what may be. */
export interface GammaNode {
  readonly at: number;
  readonly weight: number;
}

/**
 * Points whose weighted mean is the mean over a gamma variable, exactly for every polynomial up to degree 2 · count − 1
 * (Gauss's quadrature with generalised Laguerre polynomials; Abramowitz and Stegun 25.4.45 and 22.7.12). Roots by Newton's
 * method, one after the other, those found divided out.
 *
 * @param shape above 0
 * @param rate above 0: the mean is shape / rate
 * @param count 1 to 8
 */
export function gammaNodes(shape: number, rate: number, count: number): readonly GammaNode[] {
  const alpha = shape - 1;
  const roots: number[] = [];
  for (let i = 0; i < count; i++) {
    let x = (roots.at(-1) ?? 0) + 0.1;
    for (let step = 0; step < 100; step++) {
      const { value, slope } = laguerre(count, alpha, x);
      const divided = roots.reduce((sum, root) => sum + 1 / (x - root), 0);
      const move = value / (slope - value * divided);
      x -= move;
      if (Math.abs(move) <= 1e-15 * Math.abs(x)) break;
    }
    roots.push(x);
  }
  const front = Math.exp(logGamma(count + alpha + 1) - logGamma(shape) - logGamma(count + 1));
  return roots.map((x) => {
    const above = laguerre(count + 1, alpha, x).value;
    return { at: x / rate, weight: (front * x) / ((count + 1) ** 2 * above ** 2) };
  });
}

/** The generalised Laguerre polynomial and its slope at x, x above 0. */
function laguerre(degree: number, alpha: number, x: number): { readonly value: number; readonly slope: number } {
  let [before, value] = [0, 1];
  for (let n = 0; n < degree; n++)
    [before, value] = [value, ((2 * n + 1 + alpha - x) * value - (n + alpha) * before) / (n + 1)];
  return { value, slope: (degree * value - (degree + alpha) * before) / x };
}
