import { expect, it } from '@jest/globals';
import { errorFunction } from 'simple-statistics';
import { normalCdf } from './normalCdf';

it('is (1 + erf(x/√2)) / 2, as a general library has it, and has symmetric tails', () => {
  for (let x = -6; x <= 6; x += 0.37) {
    expect(normalCdf(x)).toBeCloseTo((1 + errorFunction(x / Math.SQRT2)) / 2, 6);
    expect(normalCdf(x) + normalCdf(-x)).toBeCloseTo(1, 12);
  }
  // Table value, to six figures: nine in ten.
  expect(normalCdf(1.2815516)).toBeCloseTo(0.9, 6);
});
