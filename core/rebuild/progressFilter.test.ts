import { describe, expect, it } from '@jest/globals';
import { det, inv, type Matrix, matrix, multiply, transpose } from 'mathjs';
import { changed, firstBelief, later, paused, type Step, walk } from './progressFilter';

/**
 * The same law without a filter: work done at all moments at once is jointly normal. Covariances by the double integral of
 * the load's own, summed over a grid; what is known after reading, by the conditional normal law, matrices by mathjs.
 */
const [RATE, SPREAD] = [0.01, 0.003];
const LOAD = { spread: 0.004, lasts: 7 };
const moments = [4, 9, 15, 30];
const readings = [0.05, 0.08, 0.16, 0.24];
const noise = [0.004, 0.002, 0.006, 0.003];

function covariance(s: number, t: number): number {
  const pieces = 600;
  let sum = 0;
  for (let i = 0; i < pieces; i++)
    for (let k = 0; k < pieces; k++)
      sum += Math.exp(-Math.abs(((i + 0.5) / pieces) * s - ((k + 0.5) / pieces) * t) / LOAD.lasts);
  return s * t * SPREAD ** 2 + LOAD.spread ** 2 * sum * (s / pieces) * (t / pieces);
}

describe('progressFilter', () => {
  const first = firstBelief(RATE, SPREAD, LOAD);
  const steps = moments.map((at, i): Step => ({
    seconds: at - (moments[i - 1] ?? 0),
    done: readings[i] as number,
    spread: noise[i] as number,
    logSlope: 0,
  }));
  const { belief, log } = walk(first, steps, LOAD);
  const known = matrix(
    moments.map((s, i) => moments.map((t, k) => covariance(s, t) + (i === k ? (noise[i] ?? 0) ** 2 : 0))),
  );
  const off = matrix(readings.map((reading, i) => [reading - RATE * (moments[i] as number)]));
  const single = (of: unknown): number => (of as Matrix).get([0, 0]) as number;

  it('foretells what comes next as the joint normal law does', () => {
    for (const ahead of [3, 40]) {
      const end = 30 + ahead;
      const across = matrix([moments.map((at) => covariance(end, at))]);
      const weights = multiply(across, inv(known));
      const mean = RATE * end + single(multiply(weights, off));
      const variance = covariance(end, end) - single(multiply(weights, transpose(across)));
      const told = later(belief, ahead, LOAD);
      expect(told.done / mean).toBeCloseTo(1, 4);
      expect(told.dd / variance).toBeCloseTo(1, 2);
    }
  });

  it('finds the readings as likely as the joint normal law does', () => {
    const square = single(multiply(transpose(off), multiply(inv(known), off)));
    const law = -0.5 * (square + Math.log(det(known)) + moments.length * Math.log(2 * Math.PI));
    expect(log).toBeCloseTo(law, 3);
  });

  it('counts from a reading that hardly can be, and keeps the rate it had', () => {
    const before = walk(first, steps, LOAD).belief;
    const odd: Step = { seconds: 300, done: 0.25, spread: 0.003, logSlope: 0 };
    const after = walk(first, [...steps, odd], LOAD).belief;
    expect([after.done, after.rate, after.rr]).toEqual([0.25, before.rate, before.rr]);
  });

  it('keeps the rate where work begins anew, and hardly where it changed for good', () => {
    const begins: Step = { seconds: 0, done: 0, spread: 0, logSlope: 0, begins: true };
    const anew = walk(first, [...steps, begins], LOAD).belief;
    expect([anew.done, anew.dd]).toEqual([0, 0]);
    expect(anew.rate).toBe(belief.rate);
    expect(Math.sqrt(changed(belief, LOAD).rr)).toBeGreaterThan(Math.sqrt(anew.rr));
    expect(changed(belief, LOAD).rate).toBeLessThan(belief.rate);
  });

  it('learns nothing of the rate by a reading that a pause came before, and takes any place up to what was foretold for as likely', () => {
    const step: Step = { seconds: 20, done: belief.done + 0.05, spread: 1e-6, logSlope: 0 };
    const ahead = later(belief, step.seconds, LOAD);
    const over = paused(belief, step, LOAD);
    expect([over.belief.rate, over.belief.rr, over.belief.done]).toEqual([belief.rate, belief.rr, step.done]);
    // One, over all places it may have come to.
    const places = 1000;
    const width = ahead.done - belief.done;
    let sum = 0;
    for (let i = 0; i < places; i++)
      sum += Math.exp(paused(belief, { ...step, done: belief.done + ((i + 0.5) / places) * width }, LOAD).log) / places;
    expect(sum * width).toBeCloseTo(1, 6);
    expect(paused(belief, { ...step, done: ahead.done + 0.01 }, LOAD).log).toBe(-Infinity);
  });
});
