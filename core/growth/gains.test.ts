import { describe, expect, it } from '@jest/globals';
import reedbank from '../platform/profiles/reedbank.json';
import saltern from '../platform/profiles/saltern.json';
import { failsByDataSheet, lossWithoutRepair } from '../risk/lossWithoutRepair';
import { NOW, poolOf, TB, unitOf } from '../plan/makers/testPlans';
import { gainsOf } from './gains';
import { stepRisk } from './stepRisk';

const step = (month: number, shownAfterBytes: number) => ({ month, shownAfterBytes });

describe('what a step gives at once, and what only later', () => {
  it('names the step that brings the space, and the months until then', () => {
    // Four members, each counting as the smallest: swapped at months 0, 2, 8 and 14, all the space comes with the last.
    expect(gainsOf([step(0, 12), step(2, 12), step(8, 12), step(14, 24)], 12)).toEqual([
      { bytes: 0, withMonth: 14, stepsMore: 3 },
      { bytes: 0, withMonth: 14, stepsMore: 2 },
      { bytes: 0, withMonth: 14, stepsMore: 1 },
      { bytes: 12 },
    ]);
    expect(gainsOf([step(0, 16), step(12, 16)], 12)).toEqual([{ bytes: 4 }, { bytes: 0, withMonth: null }]);
    expect(gainsOf([], 12)).toEqual([]);
  });
});

describe('what a step risks', () => {
  const THOUGHT = { failuresPerYear: [0.009, 0.04] as const, lots: [], now: NOW };
  const swap = { kind: 'swap' as const, bays: ['2'], bytes: 8 * TB };

  it('thins the pool while a member is swapped in its own bay, and not through a free one', () => {
    const inPlace = unitOf(reedbank, [4, 4, 4], 'parity-1', 3);
    const thin = stepRisk(inPlace, poolOf(inPlace), swap, 1, THOUGHT);
    // Slowest of reading 4 TB and writing 8 TB: longer than 4 TB at the family's ceiling, at full speed.
    expect(thin.hours).toBeGreaterThan((4 * TB) / 160e6 / 3600);
    expect(thin.thinHours).toBe(thin.hours);
    const through = unitOf(saltern, [4, 4, 4], 'mixed-1', 4);
    const never = stepRisk(through, poolOf(through), swap, 1, THOUGHT);
    expect(never.thinHours).toBe(0);
    expect(never.loss).toBe(
      lossWithoutRepair(poolOf(through), (serial) => failsByDataSheet(through, serial, never.hours)),
    );
    // Two drives of two left at 1/MTTF each: the chance of any failing, by hand.
    const twice = -Math.expm1((-2 * thin.hours) / 1e6);
    expect(thin.loss).toBeGreaterThan(twice * 0.5);
    expect(thin.loss).toBeLessThan(twice * 2);
    expect(thin.loss).toBeGreaterThan(never.loss * 100);
    // At four in a hundred a year, new: less than a constant rate, for what is older fails more.
    const [good, bad] = thin.lossBetween;
    const constant = -Math.expm1(((2 * thin.hours) / 8760) * Math.log1p(-0.04));
    expect(bad).toBeLessThan(constant);
    expect(bad).toBeGreaterThan(constant / 100);
    expect(good).toBeLessThan(bad);
  });

  it('thins nothing for what is added', () => {
    const unit = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    expect(stepRisk(unit, poolOf(unit), { kind: 'add', bays: ['4'], bytes: 4 * TB }, 1, THOUGHT)).toEqual({
      hours: 0,
      thinHours: 0,
      loss: 0,
      lossBetween: [0, 0],
    });
  });
});
