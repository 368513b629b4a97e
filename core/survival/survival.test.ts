import fc from 'fast-check';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { compareLayouts } from '../layout/planLayout';
import { factsOf, SCHEMES, type Scheme } from '../layout/scheme';
import type { Band } from '../layout/band';
import { isSurvived } from './isSurvived';
import { marginOf } from './marginOf';
import { choose, subsets } from './subsets';
import { survivalTable } from './survivalTable';

const layoutsOf = (scheme: Scheme, sizes: number[], width?: number) =>
  compareLayouts(
    plain as Profile,
    [scheme],
    sizes.map((bytes, i) => ({ bay: String(i + 1), bytes })),
    0,
    width,
  );
const row = (scheme: Scheme, count: number, failed: number, width?: number) => {
  const { survived, of } = layoutsOf(scheme, Array<number>(count).fill(8), width)[0]?.survival[failed] ?? {};
  return `${String(survived)} of ${String(of)}`;
};

describe('survivalTable, published and closed forms', () => {
  it('striped mirrors of m pairs survive C(m, k) 2^k', () => {
    expect(row('striped-mirrors', 4, 2)).toBe('4 of 6');
    expect(row('striped-mirrors', 8, 2)).toBe('24 of 28');
    expect(row('striped-mirrors', 8, 4)).toBe('16 of 70');
    for (let k = 0; k <= 12; k++)
      expect(row('striped-mirrors', 12, k)).toBe(
        `${String(choose(6, k) * 2n ** BigInt(k))} of ${String(choose(12, k))}`,
      );
  });

  it('two single-parity groups of three survive 9 of 15 pairs', () =>
    expect(row('parity-1-groups', 6, 2, 3)).toBe('9 of 15'));

  it('a mirror of n survives all but everything', () => {
    expect([0, 1, 2, 3, 4].map((k) => row('mirror', 4, k))).toEqual(['1 of 1', '4 of 4', '6 of 6', '4 of 4', '0 of 1']);
  });

  it('is exact for many groups, where a double would not be', () => {
    // Ten groups of six, double parity: the coefficient of x^20 in (1 + 6x + 15x^2)^10 is 15^10.
    const table = layoutsOf('parity-2-groups', Array<number>(60).fill(8), 6)[0]?.survival;
    expect(table?.[20]?.survived).toBe(String(15n ** 10n));
    expect(table?.[21]?.survived).toBe('0');
    expect(table).toHaveLength(61);
  });

  it('stops at four failures for eighty drives', () => {
    expect(layoutsOf('parity-1', Array<number>(80).fill(8))[0]?.survival).toHaveLength(5);
    expect(row('striped-mirrors', 80, 4)).toBe(`${String(choose(40, 4) * 16n)} of ${String(choose(80, 4))}`);
  });

  it('separate and dedicated lose only the failed drives’ share', () => {
    expect(layoutsOf('separate', [8, 4, 4])[0]?.survival.map(({ lostShare }) => lostShare)).toEqual([
      0,
      1 / 3,
      2 / 3,
      1,
    ]);
    expect(layoutsOf('dedicated-1', [8, 8, 4, 4])[0]?.survival.map(({ lostShare }) => lostShare)).toEqual([
      0, 0, 0.5, 0.75, 1,
    ]);
    expect(layoutsOf('parity-1', [8, 8, 8])[0]?.survival.map(({ lostShare }) => lostShare)).toEqual([0, 0, 1, 1]);
  });
});

describe('survivalTable, against plain enumeration up to 12 drives', () => {
  it('agrees for every scheme, in sets and in bytes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...SCHEMES),
        fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 12 }),
        (scheme, sizes) => {
          for (const layout of layoutsOf(scheme, sizes)) {
            const members = [...new Set(layout.bands.flatMap((band) => band.members))];
            for (const { failed, survived, of, lostShare } of layout.survival) {
              let [whole, count, lost] = [0, 0, 0];
              for (const set of subsets(members, failed)) {
                count++;
                const isWhole = isSurvived(layout.bands, new Set(set));
                if (isWhole) whole++;
                else lost += lostBytes(layout.bands, new Set(set), factsOf(scheme).loses) / layout.usableBytes;
              }
              expect([survived, of]).toEqual([String(whole), String(count)]);
              expect(lostShare).toBeCloseTo(lost / count, 9);
            }
            // "Survives n for certain" is the last row that loses nothing.
            if (layout.legal)
              expect(layout.survival.findLastIndex(({ survived, of }) => survived === of)).toBe(
                layout.guaranteedFailures,
              );
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  /** Independent of the table: which bytes are gone, drive by drive. In a dedicated band the parity drives hold none. */
  function lostBytes(bands: readonly Band[], failed: ReadonlySet<string>, loses: 'pool' | 'drives'): number {
    const usable = bands.reduce((sum, band) => sum + band.usableBytes, 0);
    if (loses === 'pool') return usable;
    const top = new Map<string, number>();
    for (const band of bands)
      for (const member of band.members.slice(band.kind === 'dedicated' ? band.redundancy : 0))
        top.set(member, band.toBytes);
    return [...top].reduce((sum, [member, bytes]) => sum + (failed.has(member) ? bytes : 0), 0);
  }

  it('counts tangled bands, as a grown pool may have them', () => {
    const tangle = [
      { kind: 'parity', fromBytes: 0, toBytes: 4, members: ['a', 'b', 'c'], redundancy: 1, usableBytes: 8 },
      { kind: 'parity', fromBytes: 4, toBytes: 8, members: ['c', 'd', 'e'], redundancy: 1, usableBytes: 8 },
    ] as const;
    // Pairs that survive: one of {a, b} with one of {d, e}; c beside anything shares a band with it.
    expect(survivalTable(tangle, 'pool')[2]).toMatchObject({ survived: '4', of: '10' });
  });
});

describe('marginOf', () => {
  it('is the least over the bands', () => {
    const bands = [
      { members: ['a', 'b', 'c'], redundancy: 2 },
      { members: ['a', 'b'], redundancy: 1 },
    ];
    expect(marginOf(bands, new Set())).toBe(1);
    expect(marginOf(bands, new Set(['c']))).toBe(1);
    expect(marginOf(bands, new Set(['a']))).toBe(0);
    expect(marginOf(bands, new Set(['a', 'b']))).toBe(-1);
  });
});
