/**
 * What is believed of running work at a moment: how much is done (share of the time at full speed, 0..1), the steady rate
 * (that share a second) and the load's part in the rate now, each with its variance and how they go together.
 */
export interface Belief {
  readonly done: number;
  readonly rate: number;
  readonly load: number;
  readonly dd: number;
  readonly dr: number;
  readonly dl: number;
  readonly rr: number;
  readonly rl: number;
  readonly ll: number;
}

/** Other work on the unit: it comes and goes, the longer the lazier (Ornstein and Uhlenbeck's process). */
export interface Load {
  /** Standard deviation, in the unit of the rate. */
  readonly spread: number;
  /** Seconds after which it is mostly another. */
  readonly lasts: number;
}

/** A reading in the terms of one curve. */
export interface Step {
  /** Seconds of work since the step before, the office's share taken off. */
  readonly seconds: number;
  /** Share of the full-speed time that is done, and its standard deviation; `null` where a beginning says nothing is. */
  readonly done: number;
  readonly spread: number;
  /** Log of how much time a share of the bytes takes here: readings are of bytes, and are compared as such. */
  readonly logSlope: number;
  /** Where a run begins: what was before does not count, but for the rate. */
  readonly begins?: boolean;
}

/** How likely it is that a reading is odd or that work has paused before it, and how far such a reading may lie. */
const ODD = { chance: 1e-3, density: 5 } as const;
const LOG_ODD = Math.log(ODD.chance * ODD.density);
/** How much the rate may have changed where work begins anew. */
const ANEW_SPREAD = 0.1;
/** What becomes of it where it has changed for good, as a share of what it was: slower, mostly. */
const CHANGED = { to: 0.5, spread: 0.25 } as const;

/** Before anything is read: nothing done, a rate, and its standard deviation. */
export function firstBelief(rate: number, spread: number, load: Load): Belief {
  return { done: 0, rate, load: 0, dd: 0, dr: 0, dl: 0, rr: spread ** 2, rl: 0, ll: load.spread ** 2 };
}

/**
 * After so many seconds of work and nothing read: the exact moments of a rate and an Ornstein-Uhlenbeck load, integrated
 * (Gillespie, Physical Review E 54, 1996, for the process and its integral).
 */
export function later(belief: Belief, seconds: number, { spread, lasts }: Load): Belief {
  const keep = Math.exp(-seconds / lasts);
  const pull = lasts * (1 - keep);
  const { done, rate, load, dd, dr, dl, rr, rl, ll } = belief;
  const calm = spread ** 2;
  return {
    done: done + rate * seconds + load * pull,
    rate,
    load: load * keep,
    dd:
      dd +
      seconds ** 2 * rr +
      pull ** 2 * ll +
      2 * (seconds * dr + pull * dl + seconds * pull * rl) +
      calm * lasts ** 2 * ((2 * seconds) / lasts - 3 + 4 * keep - keep ** 2),
    dr: dr + seconds * rr + pull * rl,
    dl: keep * (dl + seconds * rl + pull * ll) + calm * lasts * (1 - keep) ** 2,
    rr,
    rl: keep * rl,
    ll: keep ** 2 * ll + calm * (1 - keep ** 2),
  };
}

/**
 * A belief after a reading of what is done, and the log of how likely the reading was (Kalman's filter). A reading that
 * hardly can be is not believed of the rate: work has paused, or the page was read wrong, and counts from there.
 */
export function heard(
  belief: Belief,
  { done, spread, logSlope }: Step,
  load: Load,
): { readonly belief: Belief; readonly log: number } {
  const variance = belief.dd + spread ** 2;
  const off = done - belief.done;
  const log = -0.5 * (Math.log(2 * Math.PI * variance) + off ** 2 / variance);
  if (log < LOG_ODD && off < 0) return { belief: countedFrom(belief, { done, spread }, load), log: LOG_ODD + logSlope };
  const [gd, gr, gl] = [belief.dd / variance, belief.dr / variance, belief.dl / variance];
  return {
    belief: {
      done: belief.done + gd * off,
      rate: belief.rate + gr * off,
      load: belief.load + gl * off,
      dd: belief.dd - gd * belief.dd,
      dr: belief.dr - gd * belief.dr,
      dl: belief.dl - gd * belief.dl,
      rr: belief.rr - gr * belief.dr,
      rl: belief.rl - gr * belief.dl,
      ll: belief.ll - gl * belief.dl,
    },
    log: log + logSlope,
  };
}

/** A belief that counts from what is shown, and has learnt nothing of the rate by it. */
function countedFrom(belief: Belief, { done, spread }: Pick<Step, 'done' | 'spread'>, load: Load): Belief {
  return { ...belief, done, load: 0, dd: spread ** 2, dr: 0, dl: 0, rl: 0, ll: load.spread ** 2 };
}

/**
 * A belief after a step in which the work has paused for a while: it may have come anywhere between nothing and all of what was
 * foretold. The log of how likely the reading was; -∞ where it came further.
 */
export function paused(belief: Belief, step: Step, load: Load): { readonly belief: Belief; readonly log: number } {
  const foretold = later(belief, step.seconds, load);
  const short = foretold.done - step.done;
  return {
    belief: countedFrom(foretold, step, load),
    log: short <= 0 ? -Infinity : step.logSlope - Math.log(Math.max(step.spread, foretold.done - belief.done)),
  };
}

/** A belief where work begins anew: nothing done, the rate as it was learnt. */
function anew(belief: Belief, { done, spread }: Step, load: Load): Belief {
  const { rate, rr } = belief;
  return {
    ...firstBelief(rate, Math.sqrt(rr + (ANEW_SPREAD * rate) ** 2), load),
    done,
    dd: spread ** 2,
  };
}

/** A belief where the rate has changed for good: slower, by how much is open. */
export function changed(belief: Belief, load: Load): Belief {
  const { rate, rr } = belief;
  return {
    ...belief,
    rate: CHANGED.to * rate,
    load: 0,
    dr: 0,
    dl: 0,
    rl: 0,
    ll: load.spread ** 2,
    rr: CHANGED.to ** 2 * rr + (CHANGED.spread * rate) ** 2,
  };
}

/**
 * All steps, one after the other.
 *
 * @param changesAt the step after which the rate is another, if it is
 */
export function walk(
  first: Belief,
  steps: readonly Step[],
  load: Load,
  changesAt?: number,
): { readonly belief: Belief; readonly log: number } {
  let [belief, sum] = [first, 0];
  for (const [i, step] of steps.entries()) {
    if (step.begins) belief = anew(belief, step, load);
    else {
      const { belief: next, log } = heard(later(belief, step.seconds, load), step, load);
      [belief, sum] = [next, sum + log];
    }
    if (i === changesAt) belief = changed(belief, load);
  }
  return { belief, log: sum };
}
