import type { Profile } from '../platform/profile';
import { estimateRebuild } from '../rebuild/estimateRebuild';
import type { Refusal } from '../value/refusal';
import { seeded } from '../value/seeded';
import { cheapestGrowth, type GrowthPath } from './cheapestGrowth';
import { swapped, withAdded, type Allowed, type Growing } from './growing';
import { minHeap } from './minHeap';
import { baysToCome, extensionsFrom } from './otherMoves';
import { centsIn, inTodaysCents, type Price } from './priceList';
import { pricesText, readPrices } from './readPrices';
import { allow, costs, plain, pool, TB } from './testGrowing';
import { waysToGrow } from './waysToGrow';

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

  it('say how far the search has come, never back to less than it was and never as if it were done before it is', () => {
    const heard: number[] = [];
    const more = allow([4, 8, 12]);
    expect(waysToGrow(start, need, money, more, (share) => heard.push(share))?.best).not.toBeNull();
    expect(heard.length).toBeGreaterThan(3);
    expect(heard).toEqual([...heard].sort((a, b) => a - b));
    expect(heard[0]).toBe(0);
    expect(heard.at(-1)).toBeLessThan(1);
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
    // Whatever the boxes that are there are called, and whatever stands on their dials.
    const named = { ...full, boxes: [...full.boxes, { name: 'Extension 2', bays: ['a'], dial: 2 }] };
    expect(extensionsFrom(named, allow([4], boxed))).toHaveLength(1);
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
