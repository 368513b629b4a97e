/**
 * A group of like drives as a continuous-time Markov chain over how many have failed: 0..r, and lost.
 *
 * From i failed, one more fails at (n − i) λ; repairs come at μ (one after another) or i μ (side by side). With all
 * redundancy gone, a repair meets an unreadable sector and ends in loss with chance `abort`.
 */
export interface GroupChain {
  /** n, at least 1. */
  readonly members: number;
  /** r, 0 to n − 1. */
  readonly redundancy: number;
  /** λ, failures an hour of one drive. */
  readonly failureRate: number;
  /** μ, repairs an hour; includes the wait for a replacement. */
  readonly repairRate: number;
  readonly repairs: 'serial' | 'parallel';
  /** Chance that the last repair before loss meets an unreadable sector that ends it, 0..1. */
  readonly abort?: number;
}

/** Beyond this many failures the chance of more is far below anything that can be measured. */
const DEEPEST = 8;

interface Rates {
  readonly up: readonly number[];
  readonly down: readonly number[];
}

function ratesOf({ members, redundancy, failureRate, repairRate, repairs, abort = 0 }: GroupChain): Rates {
  const deepest = Math.min(redundancy, DEEPEST);
  const up: number[] = [];
  const down: number[] = [];
  for (let failed = 0; failed <= deepest; failed++) {
    const repair = failed === 0 ? 0 : repairs === 'parallel' ? failed * repairRate : repairRate;
    const isLast = failed === redundancy && failed > 0;
    up.push((members - failed) * failureRate + (isLast ? repair * abort : 0));
    down.push(isLast ? repair * (1 - abort) : repair);
  }
  return { up, down };
}

/**
 * Mean time to data loss, hours, starting with all drives well. Exact, by the time to first pass from each state to
 * the next: h0 = 1/u0, hi = (1 + di h(i−1))/ui. Equals (3λ + μ)/(2λ²) for a pair and ((2n − 1)λ + μ)/(n(n − 1)λ²) for
 * single parity (closed forms; common practice).
 */
export function meanTimeToLoss(chain: GroupChain): number {
  const { up, down } = ratesOf(chain);
  let [step, total] = [0, 0];
  up.forEach((rate, i) => {
    step = (1 + (down[i] as number) * step) / rate;
    total += step;
  });
  return total;
}

/**
 * Chance that the group has lost data by a time, 0..1, starting with all drives well. Exact: the transition matrix of
 * a short step by uniformisation, squared until the time is reached. Every number on the way is positive, so that a
 * chance of 10⁻²⁰ has as many true digits as one of a half (Jensen 1953; squaring is common practice).
 *
 * @param hours 0 and up
 */
export function chanceOfLossBy(chain: GroupChain, hours: number): number {
  const { up, down } = ratesOf(chain);
  const states = up.length;
  if (hours <= 0) return 0;
  const fastest = Math.max(...up.map((rate, i) => rate + (down[i] as number)));
  const squarings = Math.max(0, Math.ceil(Math.log2(fastest * hours)) + 1);
  const step = hours / 2 ** squarings;
  // The last column is loss; it is kept apart, as it only collects.
  const size = states + 1;
  const jump = new Float64Array(size * size);
  up.forEach((rate, i) => {
    jump[i * size + i] = 1 - (rate + (down[i] as number)) / fastest;
    jump[i * size + i + 1] = rate / fastest;
    if (i > 0) jump[i * size + i - 1] = (down[i] as number) / fastest;
  });
  jump[size * size - 1] = 1;

  let result = identity(size);
  let term = identity(size);
  const mean = fastest * step;
  for (let k = 1; k <= size + 22; k++) {
    term = multiply(term, jump, size, mean / k);
    for (let i = 0; i < result.length; i++) result[i] = (result[i] as number) + (term[i] as number);
  }
  const scale = Math.exp(-mean);
  result = result.map((entry) => entry * scale);
  for (let i = 0; i < squarings; i++) result = multiply(result, result, size, 1);
  return Math.min(1, result[states] as number);
}

function identity(size: number): Float64Array {
  const matrix = new Float64Array(size * size);
  for (let i = 0; i < size; i++) matrix[i * size + i] = 1;
  return matrix;
}

function multiply(a: Float64Array, b: Float64Array, size: number, factor: number): Float64Array {
  const product = new Float64Array(size * size);
  for (let i = 0; i < size; i++) {
    for (let k = 0; k < size; k++) {
      const left = (a[i * size + k] as number) * factor;
      if (left === 0) continue;
      for (let j = 0; j < size; j++) product[i * size + j] = (product[i * size + j] as number) + left * (b[k * size + j] as number);
    }
  }
  return product;
}
