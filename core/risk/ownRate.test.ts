import { describe, expect, it } from '@jest/globals';
import { gamma } from 'mathjs';
import { USUAL_FAILURES_PER_YEAR } from '../appraisal/appraise';
import { gammaCdf, gammaQuantile, logGamma } from './gammaLaw';
import { ownRate, servedOf, type ServiceMark } from './ownRate';
import { seeded } from '../value/seeded';
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

  /** Bayes' rule over a grid of rates, with the densities written out: a share of each below some rate, and the mean. */
  const grid = (years: number, failures: number, stretched = 1) => {
    const gammaDensity = (x: number, shape: number, rate: number): number =>
      (rate ** shape * x ** (shape - 1) * Math.exp(-rate * x)) / gamma(shape);
    let [mass, mean] = [0, 0];
    const below: [number, number][] = [];
    for (let x = 5e-6; x < 0.8; x += 1e-5) {
      const before =
        0.88 * gammaDensity(x, 4.23528086, 207.36625345 / stretched) + 0.12 * gammaDensity(x, 1, 1 / 0.06 / stretched);
      const chance = before * x ** failures * Math.exp(-years * x);
      mass += chance;
      mean += chance * x;
      below.push([x, mass]);
    }
    const quantile = (share: number): number => below.find(([, sum]) => sum >= share * mass)?.[0] ?? 0;
    return { likely: mean / mass, low: quantile(0.1), high: quantile(0.9) };
  };

  it.each([
    [41, 118, 2],
    [12, 60, 0],
    [24, 96, 9],
    [40, 400, 60],
  ])(
    'is the posterior of Bayes’ rule, summed over a grid of rates: %d drives, %d drive-years, %d failures',
    (of, years, failures) => {
      const rate = ownRate([{ years, failures }, ...Array.from({ length: of - 1 }, () => ({ years: 0, failures: 0 }))]);
      const summed = grid(years, failures);
      expect([rate.drives, rate.years, rate.failures]).toEqual([of, years, failures]);
      expect(rate.likely).toBeCloseTo(summed.likely, 5);
      expect(rate.low).toBeCloseTo(summed.low, 4);
      expect(rate.high).toBeCloseTo(summed.high, 4);
    },
  );

  it('tells of a bad model within a few years: 8 and 15 % a year, held by the span, drawn', () => {
    // With a prior of one gamma law alone (144 drive-years) 8 % was held by 6 of 100 after 50 drive-years, 15 % by none after 100.
    const held = (truth: number, years: number): number => {
      const random = seeded(11);
      const memo = new Map<number, ReturnType<typeof ownRate>>();
      let inside = 0;
      for (let k = 0; k < 500; k++) {
        // Poisson by the waits between failures.
        let failures = -1;
        for (let at = 0; at < years; at -= Math.log(1 - random()) / truth) failures++;
        const rate = memo.get(failures) ?? ownRate([{ years, failures }]);
        memo.set(failures, rate);
        if (truth >= rate.low && truth <= rate.high) inside++;
      }
      return inside / 5;
    };
    for (const [truth, years, least] of [
      [0.01, 100, 65],
      [0.02, 100, 75],
      [0.04, 100, 55],
      [0.08, 50, 50],
      [0.08, 200, 62],
      [0.15, 50, 58],
      [0.15, 100, 70],
    ] as const)
      expect([truth, years, held(truth, years) >= least]).toEqual([truth, years, true]);
  });

  it('says where what was seen and what was thought disagree, with what was to be expected', () => {
    const seenIn = (years: number, failures: number) => ownRate([{ years, failures }]);
    expect(seenIn(100, 2)).not.toHaveProperty('differs');
    expect(seenIn(100, 9)).toMatchObject({ expected: [0, 4], differs: 'more' });
    expect(seenIn(600, 0)).toMatchObject({ differs: 'fewer' });
    // Against counts drawn: a rate by the usual law (the sum of waits, shape rounded by hand to 4), then failures in 100 years.
    const random = seeded(3);
    const counts = Array.from({ length: 4000 }, () => {
      const rate = [1, 2, 3, 4].reduce((sum) => sum - Math.log(1 - random()), 0) / (4 / (4.23528086 / 207.36625345));
      let failures = -1;
      for (let at = 0; at < 100; at -= Math.log(1 - random()) / rate) failures++;
      return failures;
    }).sort((a, b) => a - b);
    expect([counts[400], counts[3600]]).toEqual(seenIn(100, 2).expected);
    expect(counts.filter((one) => one >= 9).length / 4000).toBeLessThan(0.025);
    expect(ownRate([])).toMatchObject({ expected: [0, 0] });
    expect(ownRate([])).not.toHaveProperty('differs');
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

  it('is no time in a drawer, however oddly the entries stand', () => {
    const years = (...of: readonly [ServiceMark['what'], string][]): number => served(...of).years;
    // Nobody wrote that it was taken out; or somebody did years later; or it was fitted again first.
    expect(years(['fitted', '2020-01-01T00:00:00Z'], ['elsewhere', '2021-01-01T00:00:00Z'])).toBeCloseTo(1, 2);
    expect(
      years(
        ['fitted', '2020-01-01T00:00:00Z'],
        ['elsewhere', '2021-01-01T00:00:00Z'],
        ['taken-out', '2024-01-01T00:00:00Z'],
      ),
    ).toBeCloseTo(1, 2);
    expect(
      years(
        ['fitted', '2020-01-01T00:00:00Z'],
        ['elsewhere', '2021-01-01T00:00:00Z'],
        ['fitted', '2025-01-01T00:00:00Z'],
        ['taken-out', '2025-07-01T00:00:00Z'],
      ),
    ).toBeCloseTo(1.5, 2);
    // Written twice, and by a clock that was ahead.
    expect(
      years(['fitted', '2024-01-01T00:00:00Z'], ['fitted', '2025-01-01T00:00:00Z'], ['failed', '2031-01-01T00:00:00Z']),
    ).toBeCloseTo(2, 2);
    expect(years(['elsewhere', '2021-01-01T00:00:00Z'])).toBe(0);
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
    // The others of C failed 17 times in 320 years; C is thought of as they are, and served 0.2 years.
    const others = ownRate([{ years: 320, failures: 17 }]).likely;
    expect(c / others).toBeGreaterThan(0.97);
    expect(c / others).toBeLessThan(1);
    // One that fails far more than the others is told so; what may be as they are, so few of them, is not.
    expect(['A', 'B', 'C'].map((model) => rateOf(all, model)?.differs)).toEqual([undefined, 'more', undefined]);
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

  it('holds the rate of each model and each lot four times out of five, over houses that are drawn (each kind by itself)', () => {
    const random = seeded(17);
    const exponential = (): number => -Math.log(1 - random());
    // A rate about one of the level above: a gamma variable of shape 4, drawn as a sum of waits, as uncertain as the usual range.
    const about = (mean: number): number =>
      ((exponential() + exponential() + exponential() + exponential()) / 4) * mean;
    const count = (rate: number, years: number): number => {
      let failures = -1;
      for (let at = 0; at < years; at += exponential() / rate) failures++;
      return failures;
    };
    const held = { model: [0, 0], lot: [0, 0] } as const satisfies Record<string, [number, number]>;
    for (let house = 0; house < 150; house++) {
      const usual = about(0.023);
      const truth = new Map<string, number>();
      const all = ['A', 'B', 'C', 'D'].flatMap((model) => {
        const rate = about(usual);
        truth.set(model, rate);
        return ['1', '2', '3'].flatMap((lot) => {
          // Lots of a model differ less than models do.
          const its = rate * (0.7 + 0.6 * random());
          truth.set(`${model},${lot}`, its);
          const years = 10 + 40 * random();
          const failures = count(its, years);
          return Array.from({ length: 8 }, (_, i): ServedAs => ({
            of: [model, lot],
            years: years / 8,
            failures: i === 0 ? failures : 0,
          }));
        });
      });
      for (const { of, low, high } of ratesWithin(all)) {
        const kind = held[of.length === 1 ? 'model' : 'lot'];
        const its = truth.get(of.join()) ?? NaN;
        kind[1]++;
        if (its >= low && its <= high) kind[0]++;
      }
    }
    for (const [kind, [inside, of]] of Object.entries(held)) {
      expect([kind, of]).toEqual([kind, kind === 'model' ? 600 : 1800]);
      expect([kind, inside / of > 0.72, inside / of < 0.93]).toEqual([kind, true, true]);
    }
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
