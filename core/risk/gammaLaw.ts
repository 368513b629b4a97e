/** Lanczos's approximation, g = 7, nine terms: the log of Γ(x), x > 0, to about 1e-14 (Press et al., Numerical Recipes, 6.1). */
const LANCZOS: readonly number[] = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
  12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
];

export function logGamma(x: number): number {
  const z = x - 1;
  const sum = LANCZOS.slice(1).reduce((total, term, i) => total + term / (z + i + 1), LANCZOS[0] as number);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/**
 * The chance that a gamma variable of this shape and scale 1 is below x: P(a, x), by its series below a + 1 and by Lentz's
 * continued fraction above (Numerical Recipes, 6.2).
 */
export function gammaCdf(shape: number, x: number): number {
  if (x <= 0) return 0;
  const front = Math.exp(shape * Math.log(x) - x - logGamma(shape));
  if (x < shape + 1) {
    let [term, sum] = [1 / shape, 1 / shape];
    for (let n = 1; term > sum * 1e-16; n++) {
      term *= x / (shape + n);
      sum += term;
    }
    return front * sum;
  }
  let b = x + 1 - shape;
  let c = 1e300;
  let d = 1 / b;
  let h = d;
  for (let i = 1, step = 0; Math.abs(step - 1) > 1e-15 && i < 10_000; i++) {
    const a = -i * (i - shape);
    b += 2;
    d = 1 / (a * d + b);
    c = b + a / c;
    step = c * d;
    h *= step;
  }
  return 1 - front * h;
}

/** Where a gamma variable of this shape and scale 1 stands with this chance below it, 0 < chance < 1. */
export function gammaQuantile(shape: number, chance: number): number {
  let [low, high] = [0, shape + 1];
  while (gammaCdf(shape, high) < chance) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-14 * high; i++) {
    const middle = (low + high) / 2;
    if (gammaCdf(shape, middle) < chance) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
