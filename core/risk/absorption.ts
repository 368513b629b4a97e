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
const SETTLED = 1e-13;
/** Of what no life of anything would show, the order of magnitude does. */
const RARE = 1e-40;
const RARE_SETTLED = 0.3;
const LOOK_EVERY = 16;
/** A chain that settles more slowly is taken as it is by then. */
const MOST_JUMPS = 300_000;
/** Standard deviations beyond which a number of jumps has no weight that a double could hold. */
const FAR = 9;

const { abs, ceil, exp, expm1, log, log1p, max, min, sqrt } = Math;

/** The chain after 0, 1, 2 … jumps, until what is left keeps its shape. */
interface Walk {
  /** Jumps of a Poisson process as fast as the fastest state, in a unit of time. */
  readonly pace: number;
  /** What has ended, by way and number of jumps. */
  readonly ended: readonly (readonly number[])[];
  readonly left: readonly number[];
  /** The share of what is left that each further jump takes, by way. */
  readonly taken: readonly number[];
}

const isSettled = (was: number, is: number): boolean => abs(was - is) <= (was < RARE ? RARE_SETTLED : SETTLED) * was;

/** The chances of one jump: of staying, and of each way on, a row after the other. */
interface JumpMatrix {
  readonly begins: Int32Array;
  readonly to: Int32Array;
  readonly chance: Float64Array;
  readonly stay: Float64Array;
  readonly pace: number;
}

function jumpMatrix(chain: SparseChain): JumpMatrix {
  const begins = Int32Array.from(chain.begins);
  const chance = Float64Array.from(chain.rate);
  const stay = new Float64Array(begins.length - 1);
  let pace = 0;
  for (let i = 0; i < stay.length; i++) {
    let leaving = 0;
    for (let k = begins[i] as number; k < (begins[i + 1] as number); k++) leaving += chance[k] as number;
    stay[i] = leaving;
    pace = max(pace, leaving);
  }
  for (let k = 0; k < chance.length; k++) chance[k] = (chance[k] as number) / pace;
  for (let i = 0; i < stay.length; i++) stay[i] = 1 - (stay[i] as number) / pace;
  return { begins, to: Int32Array.from(chain.to), chance, stay, pace };
}

function walk(chain: SparseChain): Walk {
  const { ends } = chain;
  const { begins, to, chance, stay, pace } = jumpMatrix(chain);
  const states = stay.length;
  const ended = Array.from({ length: ends }, () => [0]);
  const left = [1];
  let [now, next] = [new Float64Array(states), new Float64Array(states)];
  now[0] = 1;
  let [taken, before]: [number[], number[] | null] = [Array<number>(ends).fill(0), null];
  if (pace === 0) return { pace, ended, left, taken };
  // What ends with a jump is summed by itself: as a difference of sums its digits would be gone.
  const gone = new Float64Array(ends);
  for (let jump = 0; jump < MOST_JUMPS; jump++) {
    gone.fill(0);
    next.fill(0);
    for (let i = 0; i < states; i++) {
      const here = now[i] as number;
      if (here === 0) continue;
      next[i] = (next[i] as number) + here * (stay[i] as number);
      const end = begins[i + 1] as number;
      for (let k = begins[i] as number; k < end; k++) {
        const at = to[k] as number;
        const share = here * (chance[k] as number);
        if (at >= 0) next[at] = (next[at] as number) + share;
        else gone[-at - 1] = (gone[-at - 1] as number) + share;
      }
    }
    const there = left.at(-1) as number;
    const isLook = jump % LOOK_EVERY === LOOK_EVERY - 1;
    if (isLook) {
      taken = Array.from(gone, (one) => one / there);
      if (before?.every((was, way) => isSettled(was, taken[way] as number)) === true) break;
      before = taken;
    }
    [now, next] = [next, now];
    for (let way = 0; way < ends; way++) {
      const of = ended[way] as number[];
      of.push((of.at(-1) as number) + (gone[way] as number));
    }
    let sum = 0;
    for (let i = 0; i < states; i++) sum += now[i] as number;
    left.push(sum);
    if (sum === 0) return { pace, ended, left, taken: Array<number>(ends).fill(0) };
  }
  return { pace, ended, left, taken };
}

/**
 * How a chain ends. Exact, by uniformisation (Jensen 1953): every number on the way is positive, so that 10⁻²⁰ has as many
 * true digits as a half. Once what is left keeps its shape (the quasi-stationary distribution; Darroch and Seneta 1967),
 * each further jump takes the same share of it, and the rest is summed as a geometric series.
 */
export function absorption(chain: SparseChain): Absorption {
  const { pace, ended, left, taken } = walk(chain);
  const last = left.length - 1;
  const atOnce = taken.reduce((a, b) => a + b, 0);
  const rest = left[last] as number;
  /** Ended, by way, with `share` of what was left then gone since. */
  const endedWith = (share: number): number[] =>
    ended.map(
      (of, way) => (of[last] as number) + (atOnce === 0 ? 0 : (share * rest * (taken[way] as number)) / atOnce),
    );
  const endedAfter = (jumps: number): number[] =>
    jumps <= last
      ? ended.map((of) => of[jumps] as number)
      : endedWith(-expm1((jumps - last) * log1p(-min(atOnce, 1 - 1e-16))));
  return {
    meanTime:
      pace === 0
        ? Infinity
        : (left.slice(0, last).reduce((a, b) => a + b, 0) +
            (rest === 0 ? 0 : atOnce === 0 ? Infinity : rest / atOnce)) /
          pace,
    by: (time) => {
      const jumps = pace * max(0, time);
      const spread = FAR * sqrt(jumps) + 30;
      // All the weight lies where the rest is geometric: Σ over a Poisson number of jumps, in closed form.
      if (jumps - spread > last)
        return endedWith(atOnce >= 1 ? 1 : -expm1(-jumps * atOnce - last * log1p(-atOnce))).map((chance) =>
          min(1, chance),
        );
      const sums = ended.map(() => 0);
      let logWeight = -jumps;
      for (let k = 0; k <= ceil(jumps + spread); k++) {
        if (k > 0) logWeight += log(jumps / k);
        const weight = exp(logWeight);
        if (weight > 0) endedAfter(k).forEach((one, way) => (sums[way] = (sums[way] as number) + weight * one));
      }
      return sums.map((chance) => min(1, chance));
    },
  };
}
