import fc from 'fast-check';
import { expm, matrix } from 'mathjs';
import { chanceOfUnreadableSector } from './chanceOfUnreadableSector';
import { lifeOfGroup, LOST, UNREADABLE } from './memberChain';
import type { MemberGroup } from './memberGroup';
import { YEAR_HOURS } from '../quantity/year';

interface Alike {
  readonly repairs?: 'serial' | 'parallel';
  /** Chance that a rebuild that can lose none more meets an unreadable sector. */
  readonly abort?: number;
}

/** n alike drives of which r may be missing, with drives always in hand: the classic chain. */
const chain = (
  n: number,
  r: number,
  mttf: number,
  repairHours: number,
  { repairs = 'serial', abort = 0 }: Alike = {},
): MemberGroup => ({
  kinds: [{ count: n, failureRate: 1 / mttf, rebuildHours: repairHours, unreadablePerByte: 1, bands: [0] }],
  bands: [{ redundancy: r, readBytes: -Math.log1p(-abort) / (n - r) }],
  repairs,
  spares: 0,
  orderHours: 0,
});
const meanTimeToLoss = (group: MemberGroup): number => lifeOfGroup(group, false).meanTime;
const chanceOfLossBy = (group: MemberGroup, hours: number): number =>
  lifeOfGroup(group, true)
    .by(hours)
    .reduce((a, b) => a + b, 0);

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
    n: number,
    r: number,
    mttf: number,
    repairHours: number,
    of: Required<Alike>,
    hours: number,
  ): number {
    const size = r + 2;
    const generator = Array.from({ length: size }, () => Array<number>(size).fill(0));
    for (let failed = 0; failed <= r; failed++) {
      const row = generator[failed] as number[];
      const repair = failed === 0 ? 0 : (of.repairs === 'parallel' ? failed : 1) / repairHours;
      const aborts = failed === r && failed > 0 ? repair * of.abort : 0;
      row[failed + 1] = (n - failed) / mttf + aborts;
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
        (n, most, mttf, hours, repairs, abort) => {
          const r = Math.min(most, n - 1);
          const group = chain(n, r, mttf, hours, { repairs, abort });
          expect(chanceOfLossBy(group, 500) / byLibrary(n, r, mttf, hours, { repairs, abort }, 500)).toBeCloseTo(1, 9);
        },
      ),
      { numRuns: 40 },
    );
  });

  /** Every set of missing members and every number of orders, drive by drive, written down without merging anything. */
  function setBySet(
    drives: readonly { readonly rate: number; readonly hours: number; readonly unreadable: number }[],
    bands: readonly { readonly members: readonly number[]; readonly r: number; readonly bytes: number }[],
    of: { readonly repairs: 'serial' | 'parallel'; readonly spares: number; readonly orderHours: number },
    hours: number,
  ): readonly [number, number] {
    const n = drives.length;
    const most = of.spares + n;
    const at = (set: number, orders: number): number => set * (most + 1) + orders;
    const size = 2 ** n * (most + 1) + 2;
    const q = Array.from({ length: size }, () => Array<number>(size).fill(0));
    const move = (from: number, to: number, rate: number): void => {
      (q[from] as number[])[to] = ((q[from] as number[])[to] as number) + rate;
      (q[from] as number[])[from] = ((q[from] as number[])[from] as number) - rate;
    };
    for (let set = 0; set < 2 ** n; set++) {
      const out = drives.flatMap((_, i) => (((set >> i) & 1) === 1 ? [i] : []));
      if (bands.some(({ members, r }) => members.filter((i) => out.includes(i)).length > r)) continue;
      for (let orders = 0; orders <= of.spares + out.length; orders++) {
        const here = at(set, orders);
        drives.forEach(({ rate }, i) => {
          if (out.includes(i)) return;
          const then = [...out, i];
          const lost = bands.some(({ members, r }) => members.filter((one) => then.includes(one)).length > r);
          move(here, lost ? size - 2 : at(set | (1 << i), orders + 1), rate);
        });
        if (orders > 0) move(here, at(set, orders - 1), orders / of.orderHours);
        const busy = Math.min(of.repairs === 'serial' ? 1 : out.length, out.length, of.spares + out.length - orders);
        for (const i of out) {
          const rate = busy / out.length / (drives[i]?.hours ?? 1);
          let clean = 1;
          for (const { members, r, bytes } of bands)
            if (members.includes(i) && members.filter((one) => out.includes(one)).length === r)
              for (const one of members)
                if (!out.includes(one)) clean *= Math.exp(-(drives[one]?.unreadable ?? 0) * bytes);
          move(here, size - 1, rate * (1 - clean));
          move(here, at(set & ~(1 << i), orders), rate * clean);
        }
      }
    }
    const end = expm(matrix(q.map((row) => row.map((rate) => rate * hours))));
    return [Number(end.get([0, size - 2])), Number(end.get([0, size - 1]))];
  }

  it('agrees with it where no two drives are alike, bands overlap, and orders and spares are on the way', () => {
    const drive = fc.record({
      rate: fc.integer({ min: 1, max: 9 }).map((k) => k / 5000),
      hours: fc.integer({ min: 2, max: 90 }),
      unreadable: fc.constantFrom(0, 0.01, 0.2),
    });
    fc.assert(
      fc.property(
        fc.array(drive, { minLength: 3, maxLength: 4 }),
        fc.constantFrom(1, 2),
        fc.constantFrom('serial' as const, 'parallel' as const),
        fc.constantFrom(0, 1),
        fc.constantFrom(10, 72),
        fc.constantFrom(40, 600),
        (drives, r, repairs, spares, orderHours, hours) => {
          const every = drives.map((_, i) => i);
          const bands = [
            { members: every, r, bytes: 1 },
            { members: every.slice(0, r + 1), r, bytes: 3 },
          ];
          const group: MemberGroup = {
            kinds: drives.map(({ rate, hours: rebuildHours, unreadable }, i) => ({
              count: 1,
              failureRate: rate,
              rebuildHours,
              unreadablePerByte: unreadable,
              bands: bands.flatMap(({ members }, band) => (members.includes(i) ? [band] : [])),
            })),
            bands: bands.map(({ bytes }) => ({ redundancy: r, readBytes: bytes })),
            repairs,
            spares,
            orderHours,
          };
          const [lost, unreadable] = setBySet(drives, bands, { repairs, spares, orderHours }, hours);
          const got = lifeOfGroup(group, true).by(hours);
          expect(got[LOST]).toBeCloseTo(lost, 9);
          expect(got[UNREADABLE]).toBeCloseTo(unreadable, 9);
        },
      ),
      { numRuns: 12 },
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
