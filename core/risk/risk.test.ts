import fc from 'fast-check';
import { expm, matrix } from 'mathjs';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';
import { chanceOfLossBy, meanTimeToLoss, type GroupChain } from './groupChain';
import { YEAR_HOURS } from './riskOfLayout';

const chain = (
  members: number,
  redundancy: number,
  mttf: number,
  repairHours: number,
  more: Partial<GroupChain> = {},
): GroupChain => ({
  members,
  redundancy,
  failureRate: 1 / mttf,
  repairRate: 1 / repairHours,
  repairs: 'serial',
  ...more,
});

// Arithmetic of independent errors at data-sheet rates over one full read of 12 TB (common practice).
it.each([
  [12e12, 1e-14, 0.617],
  [12e12, 1e-15, 0.092],
  [0, 1e-14, 0],
])('%d bytes at %d per bit: %d', (bytes, perBit, chance) =>
  expect(chanceOfUnreadableSector(bytes, perBit)).toBeCloseTo(chance, 3),
);

describe('one drive', () => {
  it('with a mean time to failure of 1,000,000 h fails in a year with 0.87 %', () => {
    expect(chanceOfLossBy(chain(1, 0, 1e6, 1), YEAR_HOURS)).toBeCloseTo(-Math.expm1(-YEAR_HOURS / 1e6), 12);
    expect(chanceOfLossBy(chain(1, 0, 1e6, 1), YEAR_HOURS)).toBeCloseTo(0.0087, 4);
  });
});

describe('meanTimeToLoss', () => {
  it.each([
    // Patterson, Gibson, Katz 1988: MTTF 30,000 h, repair 1 h, 100 data disks; groups divide the time.
    ['100 mirrored pairs', chain(2, 1, 30_000, 1), 100, 4_500_000],
    ['10 groups of 10 + 1', chain(11, 1, 30_000, 1), 10, 818_182],
    ['4 groups of 25 + 1', chain(26, 1, 30_000, 1), 4, 346_154],
    // Elerath and Pecht 2009 (from memory, arithmetic agrees): 7 + 1, MTBF 461,386 h, repair 12 h.
    ['7 + 1 over its life', chain(8, 1, 461_386, 12), 1, 36_162 * YEAR_HOURS],
  ])('%s', (_what, group, groups, hours) => {
    // The papers leave out the small term that the exact chain has.
    expect(meanTimeToLoss(group) / groups / hours).toBeCloseTo(1, 2);
  });

  it('equals the closed forms of a pair and of single parity', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 40 }),
        fc.integer({ min: 1e4, max: 2e6 }),
        fc.integer({ min: 1, max: 200 }),
        (n, mttf, hours) => {
          const [lambda, mu] = [1 / mttf, 1 / hours];
          expect(meanTimeToLoss(chain(2, 1, mttf, hours)) / ((3 * lambda + mu) / (2 * lambda ** 2))).toBeCloseTo(1, 10);
          expect(
            meanTimeToLoss(chain(n, 1, mttf, hours)) / (((2 * n - 1) * lambda + mu) / (n * (n - 1) * lambda ** 2)),
          ).toBeCloseTo(1, 10);
        },
      ),
    );
  });

  it('loses 0.28 of 1,000 groups of 7 + 1 in ten years (Elerath and Pecht)', () => {
    expect(1000 * chanceOfLossBy(chain(8, 1, 461_386, 12), 10 * YEAR_HOURS)).toBeCloseTo(0.28, 2);
  });
});

describe('chanceOfLossBy', () => {
  /** The same chain as a generator matrix, for a general library's matrix exponential. */
  function byLibrary(
    { members, redundancy, failureRate, repairRate, repairs, abort = 0 }: GroupChain,
    hours: number,
  ): number {
    const size = redundancy + 2;
    const generator = Array.from({ length: size }, () => Array<number>(size).fill(0));
    for (let failed = 0; failed <= redundancy; failed++) {
      const row = generator[failed] as number[];
      const repair = failed === 0 ? 0 : repairRate * (repairs === 'parallel' ? failed : 1);
      const aborts = failed === redundancy && failed > 0 ? repair * abort : 0;
      row[failed + 1] = (members - failed) * failureRate + aborts;
      if (failed > 0) row[failed - 1] = repair - aborts;
      row[failed] = -row.reduce((sum, rate) => sum + rate, 0);
    }
    return Number(expm(matrix(generator.map((row) => row.map((rate) => rate * hours)))).get([0, size - 1]));
  }

  it('agrees with a general library’s matrix exponential to 1e-9 (mathjs)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 24 }),
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 500, max: 5000 }),
        fc.integer({ min: 5, max: 300 }),
        fc.constantFrom('serial' as const, 'parallel' as const),
        fc.constantFrom(0, 0.1, 0.6),
        (members, redundancy, mttf, hours, repairs, abort) => {
          const group = chain(members, Math.min(redundancy, members - 1), mttf, hours, { repairs, abort });
          expect(chanceOfLossBy(group, 500) / byLibrary(group, 500)).toBeCloseTo(1, 9);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keeps its digits where the chance is tiny: n (n−1) (n−2) λ³ t / μ² for double parity', () => {
    const group = chain(8, 2, 1e6, 10);
    const approximation = ((8 * 7 * 6) / 1e18) * YEAR_HOURS * 100;
    expect(chanceOfLossBy(group, YEAR_HOURS) / approximation).toBeCloseTo(1, 2);
    expect(chanceOfLossBy(group, YEAR_HOURS)).toBeLessThan(1e-9);
  });

  it('grows with time, and is certain in the end (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 1, max: 1e5 }), (members, hours) => {
        const group = chain(members, 1, 1e5, 24);
        expect(chanceOfLossBy(group, hours)).toBeLessThanOrEqual(chanceOfLossBy(group, hours * 2));
      }),
    );
    expect(chanceOfLossBy(chain(8, 1, 1000, 24), 1e8)).toBeCloseTo(1, 9);
    expect(chanceOfLossBy(chain(8, 1, 1000, 24), 0)).toBe(0);
  });
});
