import { describe, expect, it } from '@jest/globals';
import { gamma } from 'mathjs';
import { USUAL_FAILURES_PER_YEAR } from '../appraisal/appraise';
import { gammaCdf, gammaQuantile, logGamma } from './gammaLaw';
import { ownRate, servedOf, type ServiceMark } from './ownRate';
import { ratesWithin, type ServedAs } from './ratesWithin';
import { rateGroupOf, thoughtRate } from './thoughtRate';

describe('gammaLaw', () => {
  it('has the Γ of a general library', () => {
    for (const x of [0.3, 1, 3.305, 7.5, 20]) expect(Math.exp(logGamma(x)) / gamma(x)).toBeCloseTo(1, 12);
  });

  it('has the quantiles of χ² tables (half of χ² with 2a degrees of freedom) and the distribution, summed', () => {
    // Abramowitz and Stegun, table 26.8: 10 and 4 degrees of freedom, one in ten above and one in ten below.
    expect(2 * gammaQuantile(5, 0.9)).toBeCloseTo(15.9872, 4);
    expect(2 * gammaQuantile(2, 0.9)).toBeCloseTo(7.77944, 4);
    expect(2 * gammaQuantile(5, 0.1)).toBeCloseTo(4.86518, 4);
    for (const [shape, x] of [
      [3.3, 1],
      [3.3, 9],
      [40, 35],
    ] as const) {
      const pieces = 20_000;
      let sum = 0;
      for (let i = 0; i < pieces; i++) {
        const t = ((i + 0.5) / pieces) * x;
        sum += (t ** (shape - 1) * Math.exp(-t) * (x / pieces)) / gamma(shape);
      }
      expect(gammaCdf(shape, x)).toBeCloseTo(sum, 6);
    }
    expect(gammaCdf(2, 0)).toBe(0);
  });
});

describe('ownRate', () => {
  const seen = (drives: number, years: number, failures: number) =>
    ownRate(Array.from({ length: drives }, (_, i) => ({ years: years / drives, failures: i < failures ? 1 : 0 })));

  it('is the usual range where nothing was seen', () => {
    const { low, high, drives } = ownRate([]);
    expect([low, high]).toEqual(USUAL_FAILURES_PER_YEAR.map((share) => expect.closeTo(share, 9)));
    expect(drives).toBe(0);
  });

  it('is the posterior of Bayes’ rule, summed over a grid of rates: 2 failures of 41 drives in 118 drive-years', () => {
    const { likely, low, high, years, failures } = seen(41, 118, 2);
    expect([years, failures]).toEqual([expect.closeTo(118, 9), 2]);
    const [usualLow, usualHigh] = USUAL_FAILURES_PER_YEAR;
    // The prior by its two quantiles alone: of all gamma laws the one that has both.
    const ratio = (shape: number): number => gammaQuantile(shape, 0.9) / gammaQuantile(shape, 0.1);
    let [from, to] = [1, 10];
    while (to - from > 1e-10)
      [from, to] = ratio((from + to) / 2) > usualHigh / usualLow ? [(from + to) / 2, to] : [from, (from + to) / 2];
    const weight = gammaQuantile(from, 0.1) / usualLow;
    let [mass, mean] = [0, 0];
    const below: [number, number][] = [];
    for (let rate = 5e-6; rate < 0.2; rate += 1e-5) {
      const chance = rate ** (from - 1) * Math.exp(-weight * rate) * rate ** 2 * Math.exp(-118 * rate);
      mass += chance;
      mean += chance * rate;
      below.push([rate, mass]);
    }
    const quantile = (share: number): number => below.find(([, sum]) => sum >= share * mass)?.[0] ?? 0;
    expect(likely).toBeCloseTo(mean / mass, 6);
    expect(low).toBeCloseTo(quantile(0.1), 4);
    expect(high).toBeCloseTo(quantile(0.9), 4);
  });

  it('goes to what is seen, and narrows', () => {
    const [few, many] = [seen(40, 100, 6), seen(4000, 10_000, 600)];
    expect(few.likely).toBeLessThan(many.likely);
    expect(many.likely).toBeCloseTo(0.06, 2);
    expect(many.high - many.low).toBeLessThan(few.high - few.low);
  });
});

describe('servedOf', () => {
  const marks = (...of: readonly [ServiceMark['what'], string][]): ServiceMark[] =>
    of.map(([what, at]) => ({ what, at }));
  const served = (...of: readonly [ServiceMark['what'], string][]) => servedOf(marks(...of), '2026-01-01T00:00:00Z');

  it('counts from each fitting to where it ended, whatever order it is told in', () => {
    expect(served(['taken-out', '2022-01-01T00:00:00Z'], ['fitted', '2020-01-01T00:00:00Z']).years).toBeCloseTo(2, 2);
    expect(
      served(
        ['fitted', '2020-01-01T00:00:00Z'],
        ['taken-out', '2021-01-01T00:00:00Z'],
        ['fitted', '2024-01-01T00:00:00Z'],
      ).years,
    ).toBeCloseTo(3, 2);
    expect(served()).toEqual({ years: 0, failures: 0 });
  });

  it('ends with a failure, counted once, and goes on where it had only dropped out', () => {
    const failed = served(
      ['fitted', '2020-01-01T00:00:00Z'],
      ['failed', '2021-01-01T00:00:00Z'],
      ['taken-out', '2023-01-01T00:00:00Z'],
    );
    expect([failed.failures, Math.round(failed.years)]).toEqual([1, 1]);
    const back = served(
      ['fitted', '2020-01-01T00:00:00Z'],
      ['failed', '2021-01-01T00:00:00Z'],
      ['back', '2021-01-02T00:00:00Z'],
    );
    expect([back.failures, Math.round(back.years)]).toEqual([0, 6]);
    // Failed in no unit: there is no time it was in service.
    expect(served(['failed', '2021-01-01T00:00:00Z'])).toEqual({ years: 0, failures: 0 });
  });
});

describe('ratesWithin', () => {
  const served = (of: readonly string[], drives: number, years: number, failures: number): ServedAs[] =>
    Array.from({ length: drives }, (_, i) => ({ of, years: years / drives, failures: i < failures ? 1 : 0 }));
  const rateOf = (all: readonly ServedAs[], ...of: string[]) =>
    ratesWithin(all).find((one) => JSON.stringify(one.of) === JSON.stringify(of));

  it('takes a model by what it did, and by what the others did where it did little', () => {
    const all = [...served(['A'], 40, 160, 1), ...served(['B'], 40, 160, 16), ...served(['C'], 2, 0.2, 0)];
    const [a, b, c] = ['A', 'B', 'C'].map((model) => rateOf(all, model)?.likely ?? NaN) as [number, number, number];
    expect(a).toBeLessThan(c);
    expect(c).toBeLessThan(b);
    // By hand: the others of C failed 17 times in 320 years, on a prior of 3.305 in 143.57; C's own count on that mean.
    const others = (3.305078 + 17) / (143.571241 + 320);
    expect(c).toBeCloseTo(3.305078 / (3.305078 / others + 0.2), 6);
  });

  it('goes down to lots, each beside the other lots of its model, and says nothing of a single drive', () => {
    const all = [
      ...served(['A', '1'], 8, 32, 0),
      ...served(['A', '2'], 8, 32, 6),
      ...served(['A', '3'], 1, 4, 1),
      ...served([], 5, 20, 0),
    ];
    expect(ratesWithin(all).map(({ of }) => of.join())).toEqual(['A', 'A,1', 'A,2']);
    expect(rateOf(all, 'A', '2')?.likely).toBeGreaterThan(1.3 * (rateOf(all, 'A', '1')?.likely ?? NaN));
    expect(rateOf(all, 'A')).toMatchObject({ drives: 17, failures: 7 });
    expect(ratesWithin([])).toEqual([]);
  });
});

describe('thoughtRate', () => {
  it('is the usual range until drives have served, and then what was seen, by two figures', () => {
    expect(thoughtRate(undefined)).toEqual({ failuresPerYear: USUAL_FAILURES_PER_YEAR, isOwn: false });
    expect(thoughtRate(ownRate([{ years: 0, failures: 0 }])).isOwn).toBe(false);
    const { failuresPerYear, isOwn } = thoughtRate(
      ownRate(Array.from({ length: 41 }, (_, i) => ({ years: 118 / 41, failures: i < 2 ? 1 : 0 }))),
    );
    expect(isOwn).toBe(true);
    expect(failuresPerYear.every((share) => share === Number(share.toPrecision(2)))).toBe(true);
    expect(failuresPerYear[0]).toBeLessThan(failuresPerYear[1]);
    expect([rateGroupOf(), rateGroupOf('shingled'), rateGroupOf('nvme')]).toEqual(['disks', 'disks', 'flash']);
  });
});
