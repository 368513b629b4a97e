import { describe, expect, it } from '@jest/globals';
import { gammaNodes } from './gammaNodes';

describe('gammaNodes', () => {
  it('has the moments of the gamma law, as far as it promises: E[zⁿ] = shape (shape + 1) … / rateⁿ', () => {
    for (const [shape, rate] of [
      [1, 1],
      [2, 2],
      [2.5, 4],
      [9, 2.3],
      [40, 33],
    ] as const)
      for (const count of [1, 2, 4, 6]) {
        const nodes = gammaNodes(shape, rate, count);
        let moment = 1;
        for (let n = 0; n < 2 * count; n++) {
          expect(nodes.reduce((sum, { at, weight }) => sum + weight * at ** n, 0) / moment).toBeCloseTo(1, 9);
          moment *= (shape + n) / rate;
        }
      }
  });

  it('has the points of the tables: for e^−x and two points 2 ∓ √2 (Abramowitz and Stegun, table 25.9)', () => {
    const [first, second] = gammaNodes(1, 1, 2);
    expect(first?.at).toBeCloseTo(2 - Math.SQRT2, 12);
    expect(second?.at).toBeCloseTo(2 + Math.SQRT2, 12);
    expect(first?.weight).toBeCloseTo((2 + Math.SQRT2) / 4, 12);
  });
});
