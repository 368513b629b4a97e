import highsLoader from 'highs';
import type { Profile } from '../platform/profile';
import { seeded } from '../value/seeded';
import { cheapestGrowth, type GrowthPath, type Need } from './cheapestGrowth';
import type { GrowthKind } from './growing';
import { leastStillToPay } from './leastStillToPay';
import { pricesBySize, type Costs } from './priceList';
import { byBruteForce } from './testBruteForce';
import { allow, costs, plain, pool, TB, total } from './testGrowing';
import { programmeText, type Programme } from './testProgramme';

/** A solver of integer programmes: the least there is, or none. */
async function solver(): Promise<(programme: Programme) => number> {
  const highs = await highsLoader();
  return (programme) => {
    const { Status, ObjectiveValue } = highs.solve(programmeText(programme));
    return Status === 'Optimal' ? Math.round(ObjectiveValue) : Infinity;
  };
}

describe('the cheapest way to grow', () => {
  it('costs what trying everything finds, to the hundredth (brute force, up to 4 bays, 3 sizes, 4 years)', () => {
    const random = seeded(7);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
    let ways = 0;
    for (let i = 0; i < 60; i++) {
      const scheme = pick(['parity-1', 'mixed-1', 'mixed-1', 'parity-2'] as const);
      const members = scheme === 'parity-2' ? 4 : scheme === 'parity-1' ? pick([3, 4]) : pick([2, 3, 3, 4]);
      const sizes = Array.from({ length: members }, () => pick([2, 4, 4, 6]));
      const start = pool(scheme, sizes, 4);
      const need = {
        usedBytes: start.usableBytes * (0.4 + 0.4 * random()),
        perYearBytes: start.usableBytes * 0.6 * random(),
        line: pick([0.8, 0.9, 1]),
        years: pick([2, 3, 4]),
        everyMonths: 12,
      };
      const money = costs(
        {
          4: 8000 + Math.round(random() * 4000),
          6: 11_000 + Math.round(random() * 4000),
          8: 14_000 + Math.round(random() * 6000),
        },
        { declinePerYear: pick([0, 0.1, 0.3]), labourCents: pick([0, 1500, 6000]) },
      );
      const found = total(cheapestGrowth(start, need, money, allow([4, 6, 8])));
      expect([i, scheme, sizes, found]).toEqual([i, scheme, sizes, byBruteForce(scheme, sizes, 4, need, money)]);
      if (found > 0 && found < Infinity) ways++;
    }
    // The cases are not all of one kind.
    expect(ways).toBeGreaterThan(20);
  });

  it('costs what trying everything finds of drives that are not alike, at prices of every shape', () => {
    const random = seeded(2028);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
    const ways = new Map<string, number>();
    for (let i = 0; i < 140; i++) {
      const scheme = pick(['mixed-1', 'mixed-2', 'mixed-2', 'dedicated-1', 'parity-1'] as const);
      const bays = pick([4, 5]);
      const sizes = Array.from({ length: bays === 4 ? pick([3, 4]) : 4 }, () => pick([1, 2, 3, 4, 6]));
      const start = pool(scheme, sizes, bays);
      const need = {
        usedBytes: start.usableBytes * (0.4 + 0.4 * random()),
        perYearBytes: start.usableBytes * 0.5 * random(),
        line: pick([0.8, 1]),
        years: pick([2, 3, 4]),
        everyMonths: 12,
      };
      // A larger drive may cost less than a smaller one.
      const price = (): number => 4000 + Math.round(random() * 14_000);
      const money = costs(
        { 3: price(), 5: price(), 8: price() },
        { declinePerYear: pick([0, 0.15, 0.4]), labourCents: pick([0, 2500]), discountPerYear: pick([0, 0.06]) },
      );
      const found = total(cheapestGrowth(start, need, money, allow([3, 5, 8])));
      expect([i, scheme, sizes, found]).toEqual([i, scheme, sizes, byBruteForce(scheme, sizes, bays, need, money)]);
      if (found > 0 && found < Infinity) ways.set(scheme, (ways.get(scheme) ?? 0) + 1);
    }
    // The cases are not all of one kind.
    expect([...ways.values()].every((count) => count > 8)).toBe(true);
    expect(ways.size).toBe(4);
  });

  it('costs what trying everything finds where a year’s money is limited, or a new unit may be bought', () => {
    const random = seeded(23);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
    const seen = { limited: 0, over: 0, moved: 0 };
    for (let i = 0; i < 60; i++) {
      const scheme = pick(['parity-1', 'mixed-1', 'parity-2'] as const);
      const sizes = Array.from({ length: scheme === 'parity-2' ? 4 : 3 }, () => pick([2, 4]));
      const start = pool(scheme, sizes, 4);
      const need = {
        usedBytes: start.usableBytes * (0.5 + 0.3 * random()),
        perYearBytes: start.usableBytes * 0.5 * random(),
        line: 0.8,
        years: pick([2, 3]),
        everyMonths: pick([6, 12]),
      };
      const money = costs(
        { 4: 8000 + Math.round(random() * 4000), 8: 14_000 + Math.round(random() * 6000) },
        { labourCents: pick([0, 1500]) },
      );
      const free = total(cheapestGrowth(start, need, money, allow([4, 8])));
      const limited = {
        ...money,
        budgetCentsPerYear: Math.round(free === Infinity ? 30_000 : free * pick([0.4, 0.6, 0.8])),
      };
      const found = cheapestGrowth(start, need, limited, allow([4, 8]));
      expect([i, scheme, sizes, total(found)]).toEqual([
        i,
        scheme,
        sizes,
        byBruteForce(scheme, sizes, 4, need, limited),
      ]);
      if (found?.kind === 'growth-path' && free > 0) {
        seen.limited++;
        for (let year = 0; year < need.years; year++)
          expect(
            found.steps
              .filter(({ month }) => Math.floor(month / 12) === year)
              .reduce((sum, { cents }) => sum + cents, 0),
          ).toBeLessThanOrEqual(limited.budgetCentsPerYear);
      }
      if (found?.kind === 'over-budget') seen.over++;
      const newer = { scheme: pick(['parity-1', 'mixed-1'] as const), bays: pick([3, 5]), cents: pick([2000, 15_000]) };
      const newUnit = {
        profile: plain,
        scheme: newer.scheme,
        bays: Array.from({ length: newer.bays }, (_, n) => String(n + 1)),
        cents: newer.cents,
      };
      for (const more of [{}, { discountPerYear: 0.07 }, { budgetCentsPerYear: 60_000 }]) {
        const asked = { ...money, ...more };
        const moved = cheapestGrowth(start, need, asked, allow([4, 8], { newUnit }));
        expect([i, newer, total(moved)]).toEqual([i, newer, byBruteForce(scheme, sizes, 4, need, asked, newer)]);
        if (moved?.kind === 'growth-path' && moved.steps.some(({ kind }) => kind === 'new-unit')) seen.moved++;
      }
    }
    // The cases are not all of one kind.
    expect(Math.min(...Object.values(seen))).toBeGreaterThan(3);
  });

  it('costs what trying everything finds where a box may be hung on, or the level changed', () => {
    const random = seeded(41);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
    const levels = [
      ['parity-1', 'mixed-1'],
      ['parity-2', 'parity-1'],
      ['parity-1', 'parity-2'],
    ] as const;
    const profile: Profile = {
      ...plain,
      bays: { ...plain.bays, perEnclosure: 4, choices: [4, 6] },
      growth: { ...plain.growth, conversions: levels.map(([from, to]) => ({ from, to, keepsData: true })) },
    };
    const seen = { extend: 0, convert: 0 };
    for (let i = 0; i < 90; i++) {
      const scheme = pick(['parity-1', 'parity-2'] as const);
      const sizes = Array.from({ length: scheme === 'parity-2' ? 4 : pick([3, 4]) }, () => pick([2, 4]));
      const start = pool(scheme, sizes, 4, undefined, profile);
      const need = {
        usedBytes: start.usableBytes * (0.5 + 0.3 * random()),
        perYearBytes: start.usableBytes * 0.7 * random(),
        line: 0.8,
        years: pick([1, 2]),
        everyMonths: 12,
      };
      const money = costs(
        { 4: 8000 + Math.round(random() * 4000), 8: 14_000 + Math.round(random() * 9000) },
        { labourCents: pick([0, 1500]) },
      );
      const box = { bays: 2, cents: pick([500, 9000]), most: 6 };
      const kinds: readonly GrowthKind[] = [
        'swap',
        'add',
        ...pick([['extend'], ['convert'], ['extend', 'convert']] as const),
      ];
      const found = cheapestGrowth(start, need, money, allow([4, 8], { kinds, extension: box }));
      const forced = byBruteForce(scheme, sizes, 4, need, money, undefined, {
        ...(kinds.includes('extend') ? { box } : {}),
        levels: kinds.includes('convert') ? levels : [],
      });
      expect([i, scheme, sizes, kinds, total(found)]).toEqual([i, scheme, sizes, kinds, forced]);
      if (found?.kind !== 'growth-path') continue;
      for (const { kind } of found.steps) if (kind === 'extend' || kind === 'convert') seen[kind]++;
    }
    expect(Math.min(...Object.values(seen))).toBeGreaterThan(3);
  });

  it('costs what trying everything finds where the level is changed in a new unit, and only there', () => {
    // Two of 8 TB beside one of 4 hold 4 TB more once bands are cut at sizes: cheaper than three of 8.
    const profile: Profile = {
      ...plain,
      growth: { ...plain.growth, conversions: [{ from: 'parity-1', to: 'mixed-1', keepsData: true }] },
    };
    const newUnit = { profile, scheme: 'parity-1' as const, bays: ['1', '2', '3'], cents: 1000 };
    const money = costs({ 4: 9000, 8: 15_000 }, { labourCents: 0, declinePerYear: 0.5 });
    const start = pool('parity-1', [2, 2, 2], 3);
    for (const perYear of [3, 4.5]) {
      const need = { usedBytes: 4 * TB, perYearBytes: perYear * TB, line: 1, years: 2, everyMonths: 12 };
      const wish = allow([4, 8], { newUnit, kinds: ['swap', 'convert'] });
      const forced = byBruteForce(
        'parity-1',
        [2, 2, 2],
        3,
        need,
        money,
        { scheme: 'parity-1', bays: 3, cents: 1000 },
        {
          levels: [['parity-1', 'mixed-1']],
          isHereToo: false,
        },
      );
      expect([perYear, total(cheapestGrowth(start, need, money, wish))]).toEqual([perYear, forced]);
    }
  });

  it('costs what trying everything finds for groups, too', () => {
    for (const [line, perYear, labour] of [
      [0.8, 2, 0],
      [0.8, 4, 2000],
      [0.9, 5, 500],
    ] as const) {
      const start = pool('parity-1-groups', [2, 2, 2, 4, 4, 4], 9, 3);
      const need = { usedBytes: 6 * TB, perYearBytes: perYear * TB, line, years: 3, everyMonths: 12 };
      const money = costs({ 4: 9000, 6: 12_000, 8: 17_000 }, { labourCents: labour });
      expect(total(cheapestGrowth(start, need, money, allow([4, 6, 8])))).toBe(
        byBruteForce('groups', [2, 2, 2, 4, 4, 4], 9, need, money),
      );
    }
  });

  /** The same as a linear programme over time: which size each member has after each decision, and what is bought for it. */
  it('costs what an integer programme over time finds (HiGHS): a classic level by swapping, groups by swapping and adding', async () => {
    const leastBy = await solver();
    const byProgramme = (
      groups: readonly (readonly number[])[],
      spare: number,
      data: number,
      need: Need,
      { prices, declinePerYear, labourCents, budgetCentsPerYear }: Costs,
    ): number => {
      const months = Array.from({ length: need.years }, (_, i) => i * 12);
      const sizes = [...new Set([...groups.flat(), ...prices.map(({ bytes }) => bytes / TB)])].sort((a, b) => a - b);
      const all = [
        ...groups.map((of) => ({ of, isThere: true })),
        ...Array.from({ length: spare }, () => ({ of: groups[0]?.map(() => 0) ?? [], isThere: false })),
      ];
      const objective: string[] = [];
      const rows: string[] = [];
      const binaries: string[] = [];
      for (const [k, month] of months.entries()) {
        const before = objective.length;
        rows.push(
          `${all.map((_, g) => `${String(data)} h${String(g)}_${String(k)}`).join(' + ')} >= ${String((need.usedBytes + (need.perYearBytes * (month + 12)) / 12) / need.line / TB)}`,
        );
        for (const [g, { of, isThere }] of all.entries()) {
          for (const [i, size] of of.entries()) {
            const at = (s: number, when = k): string => `y${String(g)}_${String(i)}_${String(when)}_${String(s)}`;
            const known = isThere ? sizes : [0, ...sizes];
            rows.push(`${known.map((s) => at(s)).join(' + ')} = 1`);
            rows.push(`h${String(g)}_${String(k)} - ${known.map((s) => `${String(s)} ${at(s)}`).join(' - ')} <= 0`);
            for (const s of known) {
              binaries.push(at(s));
              const price = prices.find(({ bytes }) => bytes === s * TB);
              const had = k === 0 ? (s === size ? 1 : 0) : null;
              if (price) {
                const bought = `b${String(g)}_${String(i)}_${String(k)}_${String(s)}`;
                // The work of a whole new group is paid once, with its first drive.
                const work = isThere || i === 0 ? labourCents : 0;
                objective.push(
                  `${String(Math.round(price.cents * (1 - declinePerYear) ** (month / 12)) + work)} ${bought}`,
                );
                binaries.push(bought);
                rows.push(
                  had === null
                    ? `${bought} - ${at(s)} + ${at(s, k - 1)} >= 0`
                    : `${bought} - ${at(s)} >= ${String(-had)}`,
                );
              } else if (had === null) rows.push(`${at(s)} - ${at(s, k - 1)} <= 0`);
              else rows.push(`${at(s)} <= ${String(had)}`);
            }
          }
        }
        if (budgetCentsPerYear !== undefined)
          rows.push(`${objective.slice(before).join(' + ')} <= ${String(budgetCentsPerYear)}`);
      }
      return leastBy({ objective, rows, binaries });
    };
    const money = costs({ 6: 11_900, 8: 15_400, 12: 22_100 }, { labourCents: 1700 });
    for (const [used, perYear] of [
      [8, 2.1],
      [9, 1.3],
      [6, 4.2],
    ] as const) {
      const need = { usedBytes: used * TB, perYearBytes: perYear * TB, line: 0.8, years: 4, everyMonths: 12 };
      for (const budgetCentsPerYear of [undefined, 48_000]) {
        const asked = { ...money, ...(budgetCentsPerYear === undefined ? {} : { budgetCentsPerYear }) };
        expect(total(cheapestGrowth(pool('parity-1', [4, 4, 6, 8], 4), need, asked, allow([6, 8, 12])))).toBe(
          byProgramme([[4, 4, 6, 8]], 0, 3, need, asked),
        );
      }
    }
    // New groups come whole and are not swapped within the time: prices without work, so that both may.
    const free = costs({ 6: 11_900, 8: 15_400, 12: 22_100 });
    for (const perYear of [2, 5]) {
      const need = { usedBytes: 9 * TB, perYearBytes: perYear * TB, line: 0.8, years: 3, everyMonths: 12 };
      expect(
        total(cheapestGrowth(pool('parity-1-groups', [4, 4, 4, 4, 4, 6], 9, 3), need, free, allow([6, 8, 12]))),
      ).toBe(
        byProgramme(
          [
            [4, 4, 4],
            [4, 4, 6],
          ],
          1,
          2,
          need,
          free,
        ),
      );
    }
  }, 120_000);

  /**
   * A mixed pool as a programme of its own: above each height there are so many members, and all but as many as may be missing
   * hold data. Its bands already stand at every height on the price list but the last, so that no drive falls between.
   */
  it('costs what an integer programme over time finds for mixed pools (HiGHS)', async () => {
    const leastBy = await solver();
    const byProgramme = (start: readonly number[], bays: number, redundancy: number, need: Need, of: Costs): number => {
      const months = Array.from({ length: need.years }, (_, i) => i * 12);
      const members = [...start, ...Array.from({ length: bays - start.length }, () => 0)];
      const sizes = [...new Set([...members, ...of.prices.map(({ bytes }) => bytes / TB)])].sort((a, b) => a - b);
      const heights = sizes.filter((size) => size > 0);
      const [objective, rows, binaries]: [string[], string[], string[]] = [[], [], []];
      for (const [k, month] of months.entries()) {
        const wanted = (need.usedBytes + (need.perYearBytes * (month + 12)) / 12) / need.line / TB;
        rows.push(`${heights.map((height) => `u${String(k)}_${String(height)}`).join(' + ')} >= ${String(wanted)}`);
        const has = (i: number, size: number, when = k): string => `y${String(i)}_${String(when)}_${String(size)}`;
        for (const [h, height] of heights.entries()) {
          const by = height - (heights[h - 1] ?? 0);
          const [u, none] = [`u${String(k)}_${String(height)}`, `z${String(k)}_${String(height)}`];
          const there = members.flatMap((_, i) => sizes.filter((size) => size >= height).map((size) => has(i, size)));
          binaries.push(none);
          rows.push(
            `${u} - ${there.map((y) => `${String(by)} ${y}`).join(' - ')} - ${String(by * redundancy)} ${none} <= ${String(-by * redundancy)}`,
            `${u} + ${String(by * bays)} ${none} <= ${String(by * bays)}`,
          );
        }
        for (const [i, size] of members.entries()) {
          rows.push(`${sizes.map((one) => has(i, one)).join(' + ')} = 1`);
          for (const one of sizes) {
            binaries.push(has(i, one));
            const had = k === 0 ? Number(one === size) : null;
            const price = of.prices.find(({ bytes }) => bytes === one * TB);
            if (!price) {
              rows.push(
                had === null ? `${has(i, one)} - ${has(i, one, k - 1)} <= 0` : `${has(i, one)} <= ${String(had)}`,
              );
              continue;
            }
            const bought = `b${String(i)}_${String(k)}_${String(one)}`;
            binaries.push(bought);
            objective.push(
              `${String(Math.round(price.cents * (1 - of.declinePerYear) ** (month / 12)) + of.labourCents)} ${bought}`,
            );
            rows.push(
              had === null
                ? `${bought} - ${has(i, one)} + ${has(i, one, k - 1)} >= 0`
                : `${bought} - ${has(i, one)} >= ${String(-had)}`,
            );
          }
        }
      }
      return leastBy({ objective, rows, binaries });
    };
    const money = costs({ 6: 11_900, 12: 22_100 }, { labourCents: 1700 });
    for (const [scheme, start, bays, redundancy] of [
      ['mixed-1', [4, 6, 6], 4, 1],
      ['mixed-1', [2, 2, 6, 6], 5, 1],
      ['mixed-2', [4, 6, 6, 6], 5, 2],
    ] as const)
      for (const perYear of [0.4, 1.5, 3]) {
        const built = pool(scheme, start, bays);
        const need = {
          usedBytes: built.usableBytes * 0.7,
          perYearBytes: perYear * TB,
          line: 0.8,
          years: 3,
          everyMonths: 12,
        };
        const found = total(cheapestGrowth(built, need, money, allow([6, 12])));
        expect([scheme, perYear, found]).toEqual([scheme, perYear, byProgramme(start, bays, redundancy, need, money)]);
        expect(found).toBeGreaterThan(0);
      }
  }, 120_000);

  it('never asks more beforehand than is paid in the end: the bound is one', () => {
    const random = seeded(11);
    for (const [scheme, sizes, width] of [
      ['parity-1', [4, 4, 6], undefined],
      ['mixed-1', [4, 6, 8], undefined],
      ['mixed-2', [4, 6, 8, 8], undefined],
      ['dedicated-1', [4, 4, 8], undefined],
      ['striped-mirrors', [4, 4, 6, 6], undefined],
      ['parity-1-groups', [4, 4, 4, 6, 6, 6], 3],
    ] as const)
      for (let i = 0; i < 6; i++) {
        const start = pool(scheme, sizes, sizes.length + 3, width);
        const wanted = start.usableBytes * (1 + 1.5 * random());
        const money = costs({ 6: 11_000, 8: 13_000, 12: 21_000 }, { labourCents: 1000, declinePerYear: 0 });
        const need = { usedBytes: wanted, perYearBytes: 0, line: 1, years: 1, everyMonths: 12 };
        const bound = leastStillToPay(
          start,
          wanted,
          pricesBySize(money.prices).map(({ bytes, cents }) => ({
            bytes,
            swapCents: cents + 1000,
            addCents: cents * (width ?? (scheme === 'striped-mirrors' ? 2 : 1)) + 1000,
          })),
          allow([6, 8, 12]),
        );
        expect(bound).toBeLessThanOrEqual(total(cheapestGrowth(start, need, money, allow([6, 8, 12]))));
      }
  });

  it('does not care in which order the price list is written, nor for a size that is dearer a second time', () => {
    const start = pool('mixed-1', [4, 4, 6], 6);
    const need = { usedBytes: 7 * TB, perYearBytes: 3 * TB, line: 0.8, years: 5, everyMonths: 12 };
    const list = costs({ 4: 9000, 6: 12_500, 8: 15_000, 12: 24_000 });
    const turned = { ...list, prices: [...list.prices, { bytes: 6 * TB, cents: 99_000 }].reverse() };
    expect(cheapestGrowth(start, need, turned, allow([12, 8, 6, 4]))).toEqual(
      cheapestGrowth(start, need, list, allow([4, 6, 8, 12])),
    );
  });

  it('of two that cost the same takes the one that swaps less', () => {
    const start = pool('dedicated-1', [8, 8, 6, 4, 4], 6);
    const need = { usedBytes: 13 * TB, perYearBytes: 2 * TB, line: 0.8, years: 3, everyMonths: 12 };
    const found = cheapestGrowth(start, need, costs({ 8: 15_900 }), allow([8])) as GrowthPath;
    expect(found.steps.map(({ kind }) => kind)).toEqual(['add']);
  });

  it('is worth at each step what the pool then holds, and says who gives nothing until the last', () => {
    const found = cheapestGrowth(
      pool('parity-1', [4, 4, 4, 4], 4),
      { usedBytes: 11 * TB, perYearBytes: 1 * TB, line: 0.8, years: 1, everyMonths: 12 },
      costs({ 8: 15_000 }),
      allow([8]),
    ) as GrowthPath;
    expect(found.steps.map(({ usableAfterBytes }) => usableAfterBytes / TB)).toEqual([12, 12, 12, 24]);
    expect(found.totalCents).toBe(60_000);
  });
});
