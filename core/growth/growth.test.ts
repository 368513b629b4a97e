import highsLoader from 'highs';
import { readFileSync } from 'node:fs';
import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { drivesByName, membersOnly, poolOfLayout } from '../pool/ofLayout';
import { cheapestGrowth, type GrowthPath, type Need } from './cheapestGrowth';
import { growingOf, swapped, withAdded, type Allowed, type Growing, type GrowthKind } from './growing';
import { leastStillToPay } from './leastStillToPay';
import { baysToCome, extensionsFrom } from './otherMoves';
import { minHeap } from './minHeap';
import { centsIn, inTodaysCents, pricesBySize, type Costs, type Price } from './priceList';
import { pricesText, readPrices } from './readPrices';
import { programmeText, type Programme } from './testProgramme';
import { estimateRebuild } from '../rebuild/estimateRebuild';
import { waysToGrow } from './waysToGrow';
import type { Refusal } from '../value/refusal';
import { seeded } from '../value/seeded';

const shipped = (id: string): Profile =>
  JSON.parse(readFileSync(`core/platform/profiles/${id}.json`, 'utf8')) as Profile;
const plain = shipped('plain');
const TB = 1e12;

function pool(scheme: Scheme, sizes: readonly number[], bays: number, width?: number, profile = plain): Growing {
  const drives = sizes.map((size, i) => ({ bay: String(i + 1), bytes: size * TB }));
  const layout = planLayout(profile, scheme, drives, 0, width);
  if (!layout.legal) throw new Error(layout.reasons.join());
  const free = Array.from({ length: bays - sizes.length }, (_, i) => String(sizes.length + i + 1));
  return growingOf(profile, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free);
}
const allow = (sizes: readonly number[], more: Partial<Allowed> = {}): Allowed => ({
  kinds: ['swap', 'add', 'group'],
  sizes: sizes.map((size) => size * TB),
  leastMargin: 0,
  ...more,
});
const costs = (prices: Readonly<Record<number, number>>, more: Partial<Costs> = {}): Costs => ({
  prices: Object.entries(prices).map(([size, cents]) => ({ bytes: Number(size) * TB, cents })),
  declinePerYear: 0.15,
  labourCents: 0,
  discountPerYear: 0,
  ...more,
});

type Forced = 'parity-1' | 'parity-2' | 'mixed-1' | 'groups';

/**
 * Everything there is, tried one step after another in every order and every month, by arithmetic of its own: one band at
 * the smallest member, groups at their own smallest, mixed pools stacked as they are built. Shares no code with the search.
 *
 * @param newer a unit that may be bought instead: the pool in it, its bays, and what it costs
 */
function byBruteForce(
  scheme: Forced,
  start: readonly number[],
  bays: number,
  need: Need,
  { prices, declinePerYear, labourCents, budgetCentsPerYear = Infinity }: Costs,
  newer?: { readonly scheme: Forced; readonly bays: number; readonly cents: number },
  {
    box,
    levels = [],
  }: {
    readonly box?: { readonly bays: number; readonly cents: number; readonly most: number };
    readonly levels?: readonly (readonly [from: Forced, to: Forced])[];
  } = {},
): number {
  const width = 3;
  interface Built {
    readonly scheme: Forced;
    readonly bays: number;
    readonly isNew: boolean;
    readonly sizes: readonly number[];
    /** Of a mixed pool: tops, each with its members. */
    readonly bands: readonly (readonly [top: number, members: readonly number[]])[];
  }
  const lost = (of: Forced): number => (of === 'parity-2' ? 2 : 1);
  const fewest = (of: Forced): number => lost(of) + (of === 'mixed-1' ? 1 : 2);
  const stack = (built: Built): Built => {
    const { sizes, bands } = built;
    if (built.scheme !== 'mixed-1') return built;
    const made = bands.map(([top, members]): [number, number[]] => [
      top,
      [...new Set([...members, ...sizes.flatMap((size, i) => (size >= top ? [i] : []))])],
    ]);
    for (;;) {
      const top = made.at(-1)?.[0] ?? 0;
      const taller = sizes.flatMap((size, i) => (size > top ? [i] : []));
      if (taller.length <= 1) return { ...built, bands: made };
      made.push([Math.min(...taller.map((i) => sizes[i] as number)), taller]);
    }
  };
  const usable = ({ scheme: of, sizes, bands }: Built): number => {
    if (of === 'mixed-1')
      return bands.reduce((sum, [top, members], i) => sum + (top - (bands[i - 1]?.[0] ?? 0)) * (members.length - 1), 0);
    if (of === 'groups') {
      let sum = 0;
      for (let at = 0; at < sizes.length; at += width) sum += Math.min(...sizes.slice(at, at + width)) * (width - 1);
      return sum;
    }
    return Math.min(...sizes) * (sizes.length - lost(of));
  };
  const months = Array.from(
    { length: Math.ceil((need.years * 12) / need.everyMonths) },
    (_, i) => i * need.everyMonths,
  );
  const wanted = (k: number): number =>
    (need.usedBytes + (need.perYearBytes * ((months[k] as number) + need.everyMonths)) / 12) / need.line;
  const cost = (bytes: number, k: number, count: number): number =>
    count *
      Math.round(
        (prices.find((one) => one.bytes === bytes)?.cents ?? NaN) *
          (1 - declinePerYear) ** ((months[k] as number) / 12),
      ) +
    labourCents;
  const seen = new Map<string, number>();
  let best = Infinity;
  const walk = (built: Built, k: number, cents: number, before: number, paid: number): void => {
    const spent = before + paid;
    if (cents >= best || spent > budgetCentsPerYear) return;
    const name = `${String(k)} ${budgetCentsPerYear === Infinity ? '' : String(spent)} ${JSON.stringify(built)}`;
    if (cents >= (seen.get(name) ?? Infinity)) return;
    seen.set(name, cents);
    if (usable(built) >= wanted(k)) {
      if (k === months.length - 1) {
        best = Math.min(best, cents);
        return;
      }
      const isSameYear = Math.floor((months[k + 1] as number) / 12) === Math.floor((months[k] as number) / 12);
      walk(built, k + 1, cents, isSameYear ? spent : 0, 0);
    }
    const step = (next: Built, price: number): void => walk(stack(next), k, cents + price, spent, price);
    if (box && built.bays + box.bays <= box.most)
      step({ ...built, bays: built.bays + box.bays }, box.cents + labourCents);
    for (const [from, to] of levels.filter(([of]) => of === built.scheme)) {
      const used = need.usedBytes + (need.perYearBytes * (months[k] as number)) / 12;
      const becomes = (count: number, bytes: number): Built | null => {
        const sizes = [...built.sizes, ...Array.from({ length: count }, () => bytes)];
        const made = stack({ ...built, scheme: to, sizes, bands: [] });
        return sizes.length >= fewest(to) && usable(made) >= used ? made : null;
      };
      expect(from).not.toBe(to);
      const without = becomes(0, 0);
      if (without) step(without, labourCents);
      for (const { bytes } of without ? [] : prices)
        for (let count = 1; count <= built.bays - built.sizes.length; count++) {
          const made = becomes(count, bytes);
          if (!made) continue;
          step(made, cost(bytes, k, count));
          break;
        }
    }
    if (newer && !built.isNew)
      for (const { bytes } of prices)
        for (let count = fewest(newer.scheme); count <= newer.bays; count++)
          step(
            {
              scheme: newer.scheme,
              bays: newer.bays,
              isNew: true,
              sizes: Array.from({ length: count }, () => bytes),
              bands: [],
            },
            cost(bytes, k, count) + newer.cents,
          );
    for (const { bytes } of prices) {
      for (const [i, size] of built.sizes.entries())
        if (bytes > size) step({ ...built, sizes: built.sizes.with(i, bytes) }, cost(bytes, k, 1));
      const count = built.scheme === 'groups' ? width : 1;
      const lowest =
        built.scheme === 'groups'
          ? 0
          : built.scheme === 'mixed-1'
            ? (built.bands[0]?.[0] ?? 0)
            : Math.min(...built.sizes);
      if (built.sizes.length + count <= built.bays && bytes >= lowest)
        step(
          { ...built, sizes: [...built.sizes, ...Array.from({ length: count }, () => bytes)] },
          cost(bytes, k, count),
        );
    }
  };
  const sizes = start.map((size) => size * TB);
  walk(stack({ scheme, bays, isNew: false, sizes, bands: [] }), 0, 0, 0, 0);
  return best;
}

/** A solver of integer programmes: the least there is, or none. */
async function solver(): Promise<(programme: Programme) => number> {
  const highs = await highsLoader();
  return (programme) => {
    const { Status, ObjectiveValue } = highs.solve(programmeText(programme));
    return Status === 'Optimal' ? Math.round(ObjectiveValue) : Infinity;
  };
}

const total = (found: ReturnType<typeof cheapestGrowth>): number =>
  found?.kind === 'growth-path' ? found.totalCents : Infinity;

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
      for (const budgetCentsPerYear of [undefined, 60_000]) {
        const asked = { ...money, ...(budgetCentsPerYear === undefined ? {} : { budgetCentsPerYear }) };
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

describe('facts of the trade', () => {
  it('79 × 4 TB and one of 1 TB count as 80 × 1 TB until the one is swapped (common practice)', () => {
    const start = pool('parity-2', [...Array.from({ length: 79 }, () => 4), 1], 80);
    expect(start.usableBytes).toBe(78 * TB);
    expect(swapped(start, ['80'], 4 * TB).usableBytes).toBe(78 * 4 * TB);
  });

  it('six of thirty-two bays, five times, leave two for spares (common practice)', () => {
    let now = pool(
      'parity-2-groups',
      Array.from({ length: 12 }, () => 8),
      32,
      6,
    );
    for (let i = 0; i < 3; i++) now = (withAdded(now, 6, 8 * TB) as { after: Growing }).after;
    expect(now.free).toEqual(['31', '32']);
    expect(withAdded(now, 6, 8 * TB)).toBeNull();
  });

  it('a mixed pool grows with the second larger drive, one that survives two with the third (common practice)', () => {
    for (const [scheme, sizes, grows] of [
      ['mixed-1', [4, 4, 4], 2],
      ['mixed-2', [4, 4, 4, 4], 3],
    ] as const) {
      const start = pool(scheme, sizes, sizes.length);
      const after = (count: number): number =>
        swapped(
          start,
          sizes.slice(0, count).map((_, i) => String(i + 1)),
          8 * TB,
        ).usableBytes;
      expect(after(grows - 1)).toBe(start.usableBytes);
      expect(after(grows)).toBe(start.usableBytes + 4 * TB);
    }
  });
});

describe('the ways beside it', () => {
  const start = pool('parity-1', [4, 4, 4, 4], 8);
  const need = { usedBytes: 8 * TB, perYearBytes: 3 * TB, line: 0.8, years: 4, everyMonths: 12 };
  const money = costs({ 4: 9000, 8: 15_000, 12: 24_000 });

  it('are never cheaper, and are what they say', () => {
    const found = waysToGrow(start, need, money, allow([4, 8, 12]));
    expect(found?.others.map(({ way }) => way).sort()).toEqual(['add-only', 'buy-all-now', 'swap-only']);
    for (const { way, path } of found?.others ?? []) {
      expect(path.totalCents).toBeGreaterThanOrEqual(found?.best?.totalCents ?? Infinity);
      if (way === 'swap-only') expect(path.steps.every(({ kind }) => kind === 'swap')).toBe(true);
      if (way === 'buy-all-now') expect(path.steps.every(({ month }) => month === 0)).toBe(true);
    }
  });

  it('have a new unit beside them where one may be bought, and leave the pool alone until then', () => {
    const newUnit = {
      profile: plain,
      scheme: 'parity-2' as const,
      bays: ['1', '2', '3', '4', '5', '6'],
      cents: 40_000,
    };
    const found = waysToGrow(start, need, money, allow([4, 8, 12], { newUnit }));
    const moved = found?.others.find(({ way }) => way === 'new-unit')?.path;
    expect(moved?.steps[0]).toMatchObject({ kind: 'new-unit', isInNewUnit: true });
    expect(moved?.steps.every(({ isInNewUnit }) => isInNewUnit)).toBe(true);
    expect(found?.others.find(({ way }) => way === 'add-only')?.path.steps.every(({ kind }) => kind === 'add')).toBe(
      true,
    );
    // Given away, it is the cheapest of all.
    const given = waysToGrow(
      start,
      need,
      money,
      allow([12], { newUnit: { ...newUnit, scheme: 'parity-1', cents: 0 }, kinds: ['swap'] }),
    );
    expect(given?.best?.steps[0]?.kind).toBe('new-unit');
    // It holds what its own family shows: less than the same drives without anything kept back.
    const kept: Profile = { ...plain, space: { ...plain.space, systemAreaBytes: 0.5 * TB, poolMetadataShare: 0.1 } };
    const step = cheapestGrowth(
      pool('separate', [4], 1),
      { ...need, usedBytes: 3.5 * TB, perYearBytes: 0, years: 1 },
      money,
      allow([4], { newUnit: { ...newUnit, profile: kept } }),
    );
    expect((step as GrowthPath).steps).toMatchObject([
      { kind: 'new-unit', bays: ['1', '2', '3', '4'], usableAfterBytes: 7 * TB, shownAfterBytes: 6.3 * TB },
    ]);
  });

  it('hang on boxes as far as the family reaches, and say how far that is', () => {
    const profile: Profile = { ...plain, bays: { ...plain.bays, perEnclosure: 4, choices: [4, 8, 12] } };
    const full = pool('parity-1', [4, 4, 4, 4], 4, undefined, profile);
    const boxed = { kinds: ['add', 'extend'] as const, extension: { bays: 4, cents: 30_000 } };
    const found = waysToGrow(full, { ...need, perYearBytes: 5 * TB }, money, allow([4], boxed));
    expect(found?.best?.steps.map(({ kind, bays }) => [kind, bays.join()])).toEqual(
      [
        ['extend', '5,6,7,8'],
        ...['5', '6', '7', '8'].map((bay) => ['add', bay]),
        ['extend', '9,10,11,12'],
        ['add', '9'],
        ['add', '10'],
        ['add', '11'],
        ['add', '12'],
      ].slice(0, found?.best?.steps.length),
    );
    // As many bays as boxes give one after the other.
    let [bays, now] = [0, full];
    for (let next = extensionsFrom(now, allow([4], boxed))[0]; next; next = extensionsFrom(now, allow([4], boxed))[0])
      [bays, now] = [bays + next.bays.length, next.after];
    expect([bays, baysToCome(full, allow([4], boxed))]).toEqual([8, 8]);
    // Nothing is held by a box without drives, and it is paid once.
    expect(found?.best?.steps[0]).toMatchObject({ bytes: 0, cents: 30_000, shownAfterBytes: full.shownBytes });
    const most = waysToGrow(full, { ...need, perYearBytes: 30 * TB }, money, allow([4], boxed))?.why;
    expect(most).toContain('the most it can hold is 44 TB');
    expect(waysToGrow(full, need, money, allow([4], { kinds: ['add'] }))?.best).toBeNull();
  });

  it('say where only a year’s money is too little, and what the dearest year takes', () => {
    const costly = { ...need, perYearBytes: 4 * TB, years: 2 };
    const free = waysToGrow(start, costly, money, allow([8]))?.best;
    const limited = waysToGrow(start, costly, { ...money, budgetCentsPerYear: 5000 }, allow([8]));
    expect(limited).toMatchObject({ best: null, why: expect.stringContaining('too little money in some year') });
    const dearest = limited?.dearestYearCents ?? 0;
    expect(dearest).toBeGreaterThan(5000);
    expect(waysToGrow(start, costly, { ...money, budgetCentsPerYear: dearest }, allow([8]))?.best?.totalCents).toBe(
      free?.totalCents,
    );
  });

  it('say why there is none, and what the nearest is', () => {
    const why = (more: Partial<Allowed>, of = start, asked = need): string =>
      waysToGrow(of, asked, money, allow([4, 8, 12], more))?.why ?? '';
    expect(why({ kinds: ['add'] }, start, { ...need, perYearBytes: 9 * TB })).toMatch(
      /after month 0: .* usable are needed for 80 %, and the most it can hold is 28 TB\./,
    );
    expect(why({ kinds: ['swap'], leastMargin: 1 })).toContain('The nearest floor is 0,');
    expect(why({ leastMargin: 2 })).toContain('a floor of 2 cannot be kept');
    expect(why({ kinds: ['swap'] }, pool('span', [4, 4], 4))).toContain('no member is swapped under the data');
  });

  it('keep the floor where a double parity pool can: one is swapped at a time', () => {
    const double = pool('parity-2', [4, 4, 4, 4], 4);
    const more = { ...need, usedBytes: 6 * TB, perYearBytes: 1 * TB };
    expect(waysToGrow(double, more, money, allow([8], { leastMargin: 1 }))?.best).not.toBeNull();
    expect(waysToGrow(double, more, money, allow([8], { leastMargin: 2 }))?.best).toBeNull();
  });

  it('leave the floor for as long as a drive is written, where that is short enough', () => {
    const double = pool('parity-2', [4, 4, 4, 4], 4);
    const more = { ...need, usedBytes: 6 * TB, perYearBytes: 1 * TB };
    const full = (of: Growing, bytes: number): number =>
      estimateRebuild(
        of.pool.bands,
        new Map(
          [...of.drives.values()].map(({ name, bytes: now }) => [
            name,
            { bay: name, bytes: name === '1' ? bytes : now, media: 'hard-disk' as const },
          ]),
        ),
        '1',
        plain.rebuild,
      ).high / 3600;
    const hours = full(double, 8 * TB);
    const kept = (briefHours: number, sizes = [8]): boolean =>
      waysToGrow(double, more, money, allow(sizes, { leastMargin: 2, briefHours }))?.best !== null;
    expect([kept(0), kept(hours * 0.99), kept(hours * 1.01)]).toEqual([false, false, true]);
    // A pool that cannot keep the floor at rest keeps it no better for hours.
    expect(waysToGrow(double, more, money, allow([8], { leastMargin: 3, briefHours: 720 }))?.best).toBeNull();
    // Written by hand: 4 TB of a disk read and written at its own speed take a working day, not minutes or weeks.
    expect(hours).toBeGreaterThan(4);
    expect(hours).toBeLessThan(72);
  });

  it('leave sizes aside that the family does not take, and say so', () => {
    const profile: Profile = { ...plain, bays: { ...plain.bays, largestDriveBytes: 8 * TB } };
    const found = waysToGrow({ ...start, profile }, need, money, allow([4, 8, 12]));
    expect(found?.why).toContain('Left aside: sizes above 8 TB');
    expect(found?.best?.steps.every(({ bytes }) => bytes <= 8 * TB)).toBe(true);
  });
});

describe('a price list as it is typed', () => {
  it('takes commas, semicolons and tabs, headings and empty lines, and names the line it cannot read', () => {
    expect(readPrices('Size, Price\n8 TB, 189.90\n\n12 TB; 1,299\n16 TB\t310')).toMatchObject([
      { cents: 18_990 },
      { cents: 129_900 },
      { cents: 31_000 },
    ]);
    // Written as it stands there, and read back the same: a label, a size nobody prints, a price with a thousand.
    const kept = [...(readPrices('8 TB; 189.90\n12 TB; 1,299') as Price[]), { bytes: 7_999_999_999_987, cents: 1 }];
    expect(pricesText(kept)).toBe('8 TB; 189.90\n12 TB; 1299.00\n7999999999987 B; 0.01');
    expect(readPrices(pricesText(kept))).toEqual(kept);
    const wrong = (text: string): string => (readPrices(text) as Refusal).sentence;
    expect(wrong('8 TB, 189\nlarge, 4')).toContain('Line 2, “large, 4”');
    expect(wrong('8 TB 189')).toContain('Line 1');
    expect(wrong('8 TB, -3')).toContain('Line 1');
    expect(wrong('  \n')).toContain('Write what drives cost');
  });
});

describe('money and order', () => {
  it('falls by the year and is worth less later, in whole hundredths', () => {
    expect(centsIn(10_000, 0, 0.15)).toBe(10_000);
    expect(centsIn(10_000, 12, 0.15)).toBe(8500);
    expect(centsIn(10_000, 6, 0.15)).toBe(9220);
    expect(inTodaysCents(10_500, 12, 0.05)).toBe(10_000);
  });

  it('gives the least first, and of equals the first', () => {
    const random = seeded(3);
    const queue = minHeap<number>();
    const ranks = Array.from({ length: 500 }, () => Math.floor(random() * 50));
    ranks.forEach((rank, i) => queue.push(i, rank));
    const out = ranks.map(() => queue.pop() as number);
    expect(out).toEqual(ranks.map((_, i) => i).sort((a, b) => (ranks[a] as number) - (ranks[b] as number) || a - b));
    expect(queue.pop()).toBeUndefined();
  });
});
