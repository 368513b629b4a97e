/**
 * A continuous-time Markov chain with ways to end, as rows of a sparse matrix: from state `i` the jumps `to[k]` at `rate[k]`
 * for k from `begins[i]` to `begins[i + 1]`. It begins in the first state. Ways to end are numbered downward from −1.
 */
export interface SparseChain {
  readonly begins: ArrayLike<number>;
  readonly to: ArrayLike<number>;
  readonly rate: ArrayLike<number>;
  readonly ends: number;
}

/** How a chain ends: by when with what chance, and how long it lasts. */
export interface Absorption {
  /** The chance of each way to end by a time, 0..1, in the order of their numbers. The time is 0 and up. */
  readonly by: (time: number) => readonly number[];
  /** The mean time until any of them, in the chain's unit of time; Infinity where none comes. */
  readonly meanTime: number;
}

/** What each jump takes of what is left is settled when it changes less than this from one look to the next. */
const SETTLED = 1e-12;
/** Of what no life of anything would show, the order of magnitude does. */
const RARE = 1e-40;
const RARE_SETTLED = 0.02;
const LOOK_EVERY = 8;
/** A chain that settles more slowly is taken as it is by then. */
const MOST_JUMPS = 300_000;
/** Standard deviations beyond which a number of jumps has no weight that a double could hold. */
const FAR = 9;

const { abs, ceil, expm1, floor, log1p, max, min, sqrt } = Math;

/** The chain after 0, 1, 2 … jumps, until what is left keeps its shape. */
interface Walk {
  /** Jumps of a Poisson process as fast as the fastest state, in a unit of time. */
  readonly pace: number;
  /** What has ended, by way and number of jumps. */
  readonly ended: readonly ArrayLike<number>[];
  /** The last number of jumps that was looked at. */
  readonly last: number;
  /** What is left after these. */
  readonly rest: number;
  /** What was left before each of these jumps, in sum. */
  readonly passed: number;
  /** The share of what is left that each further jump takes, by way. */
  readonly taken: readonly number[];
}

const isSettled = (was: number, is: number): boolean => abs(was - is) <= (was < RARE ? RARE_SETTLED : SETTLED) * was;

/**
 * The chances of one jump, by where it leads: into state or way `i` from `from[k]` with `chance[k]` for k from `begins[i]` to
 * `begins[i + 1]`, the ways to end after the states; and of staying.
 */
interface JumpMatrix {
  readonly begins: Int32Array;
  readonly from: Int32Array;
  readonly chance: Float64Array;
  readonly stay: Float64Array;
  readonly pace: number;
}

function jumpMatrix({ begins: out, to, rate, ends }: SparseChain): JumpMatrix {
  const states = out.length - 1;
  const stay = new Float64Array(states);
  const begins = new Int32Array(states + ends + 1);
  const rowOf = (k: number): number => ((to[k] as number) >= 0 ? (to[k] as number) : states - (to[k] as number) - 1);
  let pace = 0;
  for (let i = 0; i < states; i++) {
    let leaving = 0;
    for (let k = out[i] as number; k < (out[i + 1] as number); k++) {
      leaving += rate[k] as number;
      const row = rowOf(k) + 1;
      begins[row] = (begins[row] as number) + 1;
    }
    stay[i] = leaving;
    pace = max(pace, leaving);
  }
  for (let row = 0; row < states + ends; row++) begins[row + 1] = (begins[row + 1] as number) + (begins[row] as number);
  const free = begins.slice();
  const from = new Int32Array(to.length);
  const chance = new Float64Array(to.length);
  for (let i = 0; i < states; i++) {
    for (let k = out[i] as number; k < (out[i + 1] as number); k++) {
      const row = rowOf(k);
      const at = free[row] as number;
      free[row] = at + 1;
      from[at] = i;
      chance[at] = (rate[k] as number) / pace;
    }
    stay[i] = 1 - (stay[i] as number) / pace;
  }
  return { begins, from, chance, stay, pace };
}

/** What a jump makes of `now`: into `next`, and by each way into `gone`. What is left, in sum. */
function jumpOnce(
  { begins, from, chance, stay }: JumpMatrix,
  now: Float64Array,
  next: Float64Array,
  gone: Float64Array,
): number {
  const states = stay.length;
  let left = 0;
  let k = 0;
  for (let i = 0; i < states; i++) {
    let sum = (now[i] as number) * (stay[i] as number);
    for (const end = begins[i + 1] as number; k < end; k++)
      sum += (now[from[k] as number] as number) * (chance[k] as number);
    next[i] = sum;
    left += sum;
  }
  for (let way = 0; way < gone.length; way++) {
    let sum = 0;
    for (const end = begins[states + way + 1] as number; k < end; k++)
      sum += (now[from[k] as number] as number) * (chance[k] as number);
    gone[way] = sum;
  }
  return left;
}

function walk(chain: SparseChain): Walk {
  const { ends } = chain;
  const matrix = jumpMatrix(chain);
  const { pace } = matrix;
  const states = matrix.stay.length;
  const ended = Array.from({ length: ends }, () => [0]);
  const done = (last: number, rest: number, passed: number, taken: readonly number[]): Walk => ({
    ...{ pace, ended, last, rest, passed, taken },
  });
  const none = Array<number>(ends).fill(0);
  const isWay = none.map(
    (_, way) => (matrix.begins[states + way + 1] as number) > (matrix.begins[states + way] as number),
  );
  if (pace === 0) return done(0, 1, 0, none);
  let [now, next] = [new Float64Array(states), new Float64Array(states)];
  now[0] = 1;
  let [taken, before]: [number[], number[] | null] = [none, null];
  let [there, passed] = [1, 0];
  // What ends with a jump is summed by itself: as a difference of sums its digits would be gone.
  const gone = new Float64Array(ends);
  for (let jump = 0; jump < MOST_JUMPS; jump++) {
    const left = jumpOnce(matrix, now, next, gone);
    if (jump % LOOK_EVERY === LOOK_EVERY - 1) {
      taken = Array.from(gone, (one) => one / there);
      // Until it can have come that far, nothing yet is not nothing ever.
      const isFar = jump >= states;
      const isThere = before?.every((was, way) => {
        const is = taken[way] as number;
        return isSettled(was, is) && (is > 0 || isFar || !isWay[way]);
      });
      if (isThere === true) return done(jump, there, passed, taken);
      before = taken;
    }
    for (let way = 0; way < ends; way++) {
      const of = ended[way] as number[];
      of.push((of[jump] as number) + (gone[way] as number));
    }
    passed += there;
    there = left;
    [now, next] = [next, now];
    if (there === 0) return done(jump + 1, 0, passed, none);
  }
  return done(MOST_JUMPS, there, passed, taken);
}

/**
 * How a chain ends. Exact, by uniformisation (Jensen 1953): every number on the way is positive, so that 10⁻²⁰ has as many
 * true digits as a half. Once what is left keeps its shape (the quasi-stationary distribution; Darroch and Seneta 1967),
 * each further jump takes the same share of it, and the rest is summed as a geometric series.
 */
export function absorption(chain: SparseChain): Absorption {
  const { pace, ended, last, rest, passed, taken } = walk(chain);
  const atOnce = taken.reduce((a, b) => a + b, 0);
  /** Ended by a way, with `share` of what was left then gone since. */
  const endedWith = (way: number, share: number): number =>
    ((ended[way] as ArrayLike<number>)[last] as number) +
    (atOnce === 0 ? 0 : (share * rest * (taken[way] as number)) / atOnce);
  return {
    meanTime: pace === 0 ? Infinity : (passed + (rest === 0 ? 0 : atOnce === 0 ? Infinity : rest / atOnce)) / pace,
    by: (time) => {
      const jumps = pace * max(0, time);
      const spread = FAR * sqrt(jumps) + 30;
      // All the weight lies where the rest is geometric: Σ over a Poisson number of jumps, in closed form.
      if (jumps - spread > last) {
        const share = atOnce >= 1 ? 1 : -expm1(-jumps * atOnce - last * log1p(-atOnce));
        return taken.map((_, way) => min(1, endedWith(way, share)));
      }
      const { first, weights } = poissonWeights(jumps, spread);
      // The weights begin within what was walked. So much of them lies where the rest is geometric, and of that rest so much is
      // gone by then: from one jump to the next by sums of what is positive.
      const within = min(weights.length, last + 1 - first);
      let [share, beyond, gone] = [0, 0, 0];
      for (let i = within; i < weights.length; i++) {
        share += (1 - share) * atOnce;
        beyond += weights[i] as number;
        gone += (weights[i] as number) * share;
      }
      return ended.map((of, way) => {
        let sum = beyond * (of[last] as number) + (atOnce === 0 ? 0 : (gone * rest * (taken[way] as number)) / atOnce);
        for (let i = 0; i < within; i++) sum += (weights[i] as number) * (of[first + i] as number);
        return min(1, sum);
      });
    },
  };
}

/**
 * The chances of so many jumps where `mean` are expected, from `first` on, as far as `spread` on either side: outward from the
 * likeliest by the ratio of neighbours, then made to sum to one, so that nothing is lost in large powers (Fox and Glynn 1988).
 */
function poissonWeights(mean: number, spread: number): { readonly first: number; readonly weights: Float64Array } {
  const first = max(0, floor(mean - spread));
  const mode = floor(mean) - first;
  const weights = new Float64Array(ceil(mean + spread) - first + 1);
  weights[mode] = 1;
  for (let i = mode; i > 0; i--) weights[i - 1] = ((weights[i] as number) * (first + i)) / mean;
  for (let i = mode + 1; i < weights.length; i++) weights[i] = ((weights[i - 1] as number) * mean) / (first + i);
  let sum = 0;
  for (const weight of weights) sum += weight;
  for (let i = 0; i < weights.length; i++) weights[i] = (weights[i] as number) / sum;
  return { first, weights };
}

/** How something ends that comes to each of its ends at a constant rate. */
export function atRates(rates: readonly number[]): Absorption {
  const all = rates.reduce((a, b) => a + b, 0);
  return {
    meanTime: 1 / all,
    by: (time) => rates.map((rate) => (all === 0 ? 0 : (-expm1(-all * max(0, time)) * rate) / all)),
  };
}
