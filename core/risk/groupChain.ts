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
  if (hours <= 0) return 0;
  const { up, down } = ratesOf(chain);
  const fastest = up.reduce((most, rate, i) => Math.max(most, rate + (down[i] as number)), 0);
  const squarings = Math.max(0, Math.ceil(Math.log2((fastest * hours) / LONGEST_STEP)));
  const step = hours / 2 ** squarings;
  // States 0..r and, last, loss.
  const size = up.length + 1;
  let matrix: Float64Array = shortStep(up, down, fastest, step);
  let spare: Float64Array = new Float64Array(size * size);
  for (let i = 0; i < squarings; i++) {
    square(matrix, spare, size);
    [matrix, spare] = [spare, matrix];
  }
  return Math.min(1, matrix[size - 1] as number);
}

/** Expected jumps in the step that is squared; few enough for the series to end soon. */
const LONGEST_STEP = 0.25;
/** Terms beyond the number of states: 0.25^12/12! is far below what a double holds beside 1. */
const MORE_TERMS = 12;

/** The transition matrix over a short step: Σ e^−m m^k/k! Pᵏ with P the jump chain, of which each row has three entries. */
function shortStep(up: readonly number[], down: readonly number[], fastest: number, step: number): Float64Array {
  const states = up.length;
  const size = states + 1;
  const mean = fastest * step;
  const result = new Float64Array(size * size);
  let [term, next] = [new Float64Array(size * size), new Float64Array(size * size)];
  const start = Math.exp(-mean);
  for (let i = 0; i < size; i++) result[i * size + i] = term[i * size + i] = start;
  for (let k = 1; k <= size + MORE_TERMS; k++) {
    const factor = mean / k;
    for (let row = 0; row < size; row++) {
      const at = row * size;
      for (let column = 0; column < size; column++) {
        // Column j of Pᵏ⁺¹ is reached from j (staying), from j − 1 (a failure) and from j + 1 (a repair).
        let sum =
          column < states
            ? (term[at + column] as number) * (1 - ((up[column] as number) + (down[column] as number)) / fastest)
            : (term[at + column] as number);
        if (column > 0) sum += ((term[at + column - 1] as number) * (up[column - 1] as number)) / fastest;
        if (column + 1 < states) sum += ((term[at + column + 1] as number) * (down[column + 1] as number)) / fastest;
        next[at + column] = sum * factor;
        result[at + column] = (result[at + column] as number) + sum * factor;
      }
    }
    [term, next] = [next, term];
  }
  return result;
}

/** Squares, and brings every row back to a whole: rounding would otherwise double with each squaring. */
function square(matrix: Float64Array, into: Float64Array, size: number): void {
  for (let i = 0; i < size; i++) {
    let whole = 0;
    const row = i * size;
    into.fill(0, row, row + size);
    for (let k = 0; k < size; k++) {
      const factor = matrix[row + k] as number;
      if (factor === 0) continue;
      const of = k * size;
      for (let j = 0; j < size; j++) into[row + j] = (into[row + j] as number) + factor * (matrix[of + j] as number);
    }
    for (let j = 0; j < size; j++) whole += into[row + j] as number;
    for (let j = 0; j < size; j++) into[row + j] = (into[row + j] as number) / whole;
  }
}
