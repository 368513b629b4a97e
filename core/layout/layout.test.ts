import fc from 'fast-check';
import highsLoader from 'highs';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { subsets } from '../survival/subsets';
import { compareLayouts, planLayout, type PlannedDrive } from './planLayout';
import { protectionOf } from './band';
import { bandsOf, usedHeightOf } from './bands';
import { SCHEMES, type Scheme } from './scheme';

const PLAIN = plain as Profile;
const drives = (...sizes: number[]): PlannedDrive[] => sizes.map((bytes, i) => ({ bay: String(i + 1), bytes }));
const plan = (scheme: Scheme, sizes: number[], spares = 0, width?: number) =>
  planLayout(PLAIN, scheme, drives(...sizes), spares, width);
const someSizes = fc.array(fc.integer({ min: 1, max: 24 }), { minLength: 1, maxLength: 10 });
const aScheme = fc.constantFrom(...SCHEMES);
const aProfile = fc.constantFrom(PLAIN, saltern as Profile, causeway as Profile);

describe('planLayout, known layouts (common practice, worked by hand)', () => {
  // Five unequal drives: 12, 12, 6, 6, 4.
  const five = [12, 12, 6, 6, 4];
  it.each([
    ['separate', 40, 0, 0],
    ['span', 40, 0, 0],
    ['stripe', 20, 0, 20],
    ['mirror', 4, 16, 20],
    ['parity-1', 16, 4, 20],
    ['parity-2', 12, 8, 20],
    ['mixed-1', 28, 12, 0],
    ['mixed-2', 16, 12, 12],
    ['dedicated-1', 28, 12, 0],
    ['dedicated-2', 16, 12, 12],
  ] as const)(
    '%s of 12, 12, 6, 6, 4 gives %d usable, %d protection, %d unused',
    (scheme, usable, protection, unused) => {
      expect(plan(scheme, five)).toMatchObject({
        legal: true,
        usableBytes: usable,
        protectionBytes: protection,
        unusedBytes: unused,
        rawBytes: 40,
      });
    },
  );

  it('cuts a mixed pool at each distinct size', () => {
    expect(plan('mixed-1', five).bands).toMatchObject([
      { kind: 'parity', fromBytes: 0, toBytes: 4, members: ['1', '2', '3', '4', '5'], redundancy: 1, usableBytes: 16 },
      { kind: 'parity', fromBytes: 4, toBytes: 6, members: ['1', '2', '3', '4'], usableBytes: 6 },
      { kind: 'mirror', fromBytes: 6, toBytes: 12, members: ['1', '2'], usableBytes: 6 },
    ]);
  });

  it('pairs striped mirrors by neighbours of the sorted list, or all by the smallest where the family does', () => {
    expect(plan('striped-mirrors', [4, 8, 4, 10]).usableBytes).toBe(12);
    const asSmallest: Profile = { ...PLAIN, space: { ...PLAIN.space, mirrorPairing: 'all-as-smallest' } };
    expect(planLayout(asSmallest, 'striped-mirrors', drives(4, 8, 4, 10)).usableBytes).toBe(8);
  });

  it('makes parity groups of consecutive runs, each as high as its own smallest', () => {
    const layout = plan('parity-1-groups', [8, 4, 8, 4, 8, 4], 0, 3);
    expect(layout).toMatchObject({ legal: true, groupWidth: 3, usableBytes: 24, protectionBytes: 12, unusedBytes: 0 });
    expect(layout.bands.map(({ members }) => members)).toEqual([
      ['1', '3', '5'],
      ['2', '4', '6'],
    ]);
  });

  it('takes the later bay for parity among equal drives', () => {
    expect(plan('dedicated-1', [8, 8, 4]).bands[0]?.members).toEqual(['2', '1', '3']);
    expect(plan('dedicated-1', [8, 8, 4])).toMatchObject({ usableBytes: 12, protectionBytes: 8, unusedBytes: 0 });
    expect(plan('dedicated-1', [12, 8, 4])).toMatchObject({ usableBytes: 12, protectionBytes: 8, unusedBytes: 4 });
  });

  it('sets aside the smallest spare that can stand in, of equal drives the later bay', () => {
    expect(plan('parity-1', [8, 4, 8, 4, 8], 1)).toMatchObject({ spareBays: ['4'], usableBytes: 12 });
    expect(plan('mixed-1', [12, 12, 6, 6, 4], 1).spareBays).toEqual(['2']);
    expect(plan('mixed-1', [12, 6, 6, 4], 1).spareBays).toEqual(['3']);
    expect(plan('parity-1', [8, 8, 8, 8, 8, 8], 2).spareBays).toEqual(['5', '6']);
  });

  it('sets spares aside for each group, and lists the widths that fit so', () => {
    const list = drives(...Array<number>(14).fill(8));
    const layouts = compareLayouts(PLAIN, ['parity-1-groups'], list, { perGroup: 1 });
    expect(
      layouts.map(({ groupWidth, spareBays, usableBytes }) => [groupWidth, spareBays.length, usableBytes]),
    ).toEqual([[6, 2, 80]]);
    // 12, 10, 8, 6 and 5, 4, 3, 2: the smallest sets the height, the next smallest waits.
    expect(planLayout(PLAIN, 'parity-1-groups', drives(12, 10, 8, 6, 5, 4, 3, 2), { perGroup: 1 }, 3)).toMatchObject({
      legal: true,
      spareBays: ['3', '7'],
      usableBytes: 2 * 6 + 2 * 2,
    });
    // Where there are no groups it means the pool.
    expect(planLayout(PLAIN, 'parity-1', drives(8, 8, 8, 8), { perGroup: 1 }).spareBays).toEqual(['4']);
  });

  it('every spare of a group can stand in for any of its members (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 24 }), { minLength: 8, maxLength: 8 }), (sizes) => {
        const list = drives(...sizes);
        const { bands, spareBays } = planLayout(PLAIN, 'parity-1-groups', list, { perGroup: 1 }, 3);
        const bytesOf = (bay: string): number => list[Number(bay) - 1]?.bytes ?? 0;
        const heights = bands.map(({ toBytes }) => toBytes).sort((a, b) => b - a);
        const waiting = spareBays.map(bytesOf).sort((a, b) => b - a);
        waiting.forEach((bytes, i) => expect(bytes).toBeGreaterThanOrEqual(heights[i] ?? 0));
      }),
    );
  });

  it('lists every group width that fits', () => {
    const widths = (scheme: Scheme, count: number) =>
      compareLayouts(PLAIN, [scheme], drives(...Array<number>(count).fill(8))).map(({ groupWidth }) => groupWidth);
    expect(widths('parity-1-groups', 24)).toEqual([3, 4, 6, 8, 12]);
    expect(widths('parity-2-groups', 24)).toEqual([4, 6, 8, 12]);
    expect(widths('parity-1-groups', 7)).toEqual([undefined]);
  });

  it('leaves drives over only where the family accepts that', () => {
    expect(plan('parity-1-groups', Array<number>(7).fill(8), 0, 3)).toMatchObject({
      legal: false,
      usableBytes: 0,
      unusedBytes: 56,
    });
    const big = drives(...Array<number>(7).fill(8e12));
    const layout = planLayout(causeway as Profile, 'parity-1-groups', big, 0, 3);
    expect(layout.legal).toBe(true);
    expect(layout.unused).toMatchObject([{ bay: '7', why: 'Left over: it fills no whole group.' }]);
  });

  it('takes system area from spares too, metadata and reserve from usable', () => {
    const layout = planLayout(saltern as Profile, 'mixed-1', drives(12e12, 12e12, 8e12, 8e12, 4e12), 1);
    const { systemAreaBytes, poolMetadataBytes, fileSystemReserveShare, cutGranularityBytes } = saltern.space;
    expect(layout.systemBytes).toBe(5 * systemAreaBytes);
    expect(layout.poolMetadataBytes).toBe(poolMetadataBytes);
    expect(layout.shownBytes).toBe(layout.usableBytes - poolMetadataBytes);
    expect(layout.fileSystemReserveBytes).toBe(Math.floor(layout.shownBytes * fileSystemReserveShare));
    for (const { fromBytes, toBytes } of layout.bands) expect((toBytes - fromBytes) % cutGranularityBytes).toBe(0);
  });
});

describe('planLayout, illegal layouts', () => {
  it.each([
    [
      'striped-mirrors',
      [8, 8, 8, 8, 8],
      0,
      undefined,
      'Needs an even number of drives; 5 are in. Add one or leave one as a spare.',
    ],
    ['parity-1', [8, 8], 0, undefined, 'Needs at least 3 drives; 2 are in. Add 1 more.'],
    ['parity-1', [8, 8, 8], 1, undefined, 'Needs at least 3 drives; 2 are in. Add 1 more, or keep no spare.'],
    [
      'stripe',
      [8, 8, 8],
      1,
      undefined,
      'A spare has nothing to rebuild from here. Leave the spare out, or take a layout with protection.',
    ],
    [
      'parity-1-groups',
      [8, 8, 8, 8, 8, 8, 8],
      0,
      undefined,
      '7 drives do not divide into equal groups this family can make. Take away 1 or add 1.',
    ],
    ['parity-1-groups', [8, 8, 8, 8, 8, 8], 0, 4, 'Two groups of 4 need 8 drives; 6 are there.'],
    ['parity-2-groups', [8, 8, 8, 8, 8, 8, 8, 8], 0, 3, 'A group needs at least 4 drives; 3 were asked for.'],
  ] as const)('%s of %j with %d spares, width %p', (scheme, sizes, spares, width, reason) => {
    const layout = plan(scheme, [...sizes], spares, width);
    expect(layout.legal).toBe(false);
    expect(layout.reasons).toContain(reason);
    expect(layout).toMatchObject({ usableBytes: 0, bands: [], survival: [], guaranteedFailures: 0 });
  });

  it('has the published fewest drives for every scheme', () => {
    const fewest = Object.fromEntries(
      SCHEMES.map((scheme) => [
        scheme,
        [1, 2, 3, 4, 5, 6, 7, 8].find(
          (n) => compareLayouts(PLAIN, [scheme], drives(...Array<number>(n).fill(8)))[0]?.legal,
        ),
      ]),
    );
    expect(fewest).toEqual({
      separate: 1,
      span: 2,
      stripe: 2,
      mirror: 2,
      'striped-mirrors': 4,
      'parity-1': 3,
      'parity-2': 4,
      'parity-1-groups': 6,
      'parity-2-groups': 8,
      'mixed-1': 2,
      'mixed-2': 3,
      'dedicated-1': 2,
      'dedicated-2': 3,
    });
  });

  it('says when the family does not offer it, or takes no such drive', () => {
    expect(planLayout(saltern as Profile, 'span', drives(8e12, 8e12)).reasons).toEqual([
      'Saltern, banded mixed pools does not offer this layout.',
    ]);
    expect(planLayout(saltern as Profile, 'mixed-1', drives(8e12, 1e6)).reasons[0]).toMatch(
      /Bay 2 holds 1 MB, no more than the unit's own system area/,
    );
    expect(planLayout(saltern as Profile, 'mixed-1', drives(8e12, 40e12)).reasons[0]).toMatch(
      /Bay 2 holds 40 TB; this family takes drives up to 30 TB/,
    );
  });

  it('refuses a drive that fits no bay of the family, and warns of shingled ones in parity', () => {
    const list = (media: 'nvme' | 'shingled' | 'ssd') => [
      ...drives(8e12, 8e12, 8e12),
      { bay: '4', bytes: 8e12, media },
    ];
    expect(planLayout(saltern as Profile, 'mixed-1', list('nvme')).reasons).toEqual([
      'Bay 4 is to hold an unfitting drive (NVMe drive); the bays of this family are 3.5-inch and 2.5-inch.',
    ]);
    expect(planLayout(saltern as Profile, 'mixed-1', list('ssd')).legal).toBe(true);
    expect(planLayout(PLAIN, 'parity-1', list('shingled')).reasons[0]).toMatch(
      /^Shingled: bay 4\. Rebuilding onto such a drive/,
    );
    expect(planLayout(PLAIN, 'mirror', list('shingled')).reasons).toEqual([]);
  });

  it('warns of wide single parity, with its risk', () => {
    expect(plan('parity-1', Array<number>(8).fill(8e12)).reasons).toEqual([]);
    expect(plan('parity-1', Array<number>(12).fill(12e12)).reasons[0]).toMatch(
      /A rebuild reads 132 TB.* is 65 % \(in 10¹⁴: over 99 %\)/,
    );
  });
});

describe('planLayout, properties', () => {
  it('raw = usable + protection + unused + system, to the byte, and the map says the same', () => {
    fc.assert(
      fc.property(someSizes, aScheme, fc.integer({ min: 0, max: 3 }), aProfile, (sizes, scheme, spares, profile) => {
        for (const layout of compareLayouts(
          profile,
          [scheme],
          drives(...sizes.map((size) => size * 1e12 + size)),
          spares,
        )) {
          expect(layout.usableBytes + layout.protectionBytes + layout.unusedBytes + layout.systemBytes).toBe(
            layout.rawBytes,
          );
          expect(layout.unused.reduce((sum, { fromBytes, toBytes }) => sum + toBytes - fromBytes, 0)).toBe(
            layout.unusedBytes,
          );
          expect(layout.bands.reduce((sum, band) => sum + band.usableBytes + protectionOf(band), 0)).toBe(
            layout.usableBytes + layout.protectionBytes,
          );
          expect(layout.legal ? layout.usableBytes > 0 : layout.reasons.length > 0).toBe(true);
        }
      }),
    );
  });

  it('usable never passes the total less the r largest, and mixed pools reach it', () => {
    fc.assert(
      fc.property(someSizes, aScheme, (sizes, scheme) => {
        for (const layout of compareLayouts(PLAIN, [scheme], drives(...sizes))) {
          const sorted = [...sizes].sort((a, b) => b - a);
          const bound = sorted.slice(layout.guaranteedFailures).reduce((a, b) => a + b, 0);
          expect(layout.usableBytes).toBeLessThanOrEqual(bound);
          if (layout.legal && scheme.startsWith('mixed')) expect(layout.usableBytes).toBe(bound);
        }
      }),
    );
  });

  it('adding or enlarging a drive never shrinks a mixed pool', () => {
    fc.assert(
      fc.property(
        someSizes,
        fc.integer({ min: 1, max: 24 }),
        fc.nat(9),
        fc.constantFrom('mixed-1' as const, 'mixed-2' as const),
        (sizes, more, at, scheme) => {
          const before = plan(scheme, sizes).usableBytes;
          expect(plan(scheme, [...sizes, more]).usableBytes).toBeGreaterThanOrEqual(before);
          expect(
            plan(
              scheme,
              sizes.map((size, i) => (i === at ? size + more : size)),
            ).usableBytes,
          ).toBeGreaterThanOrEqual(before);
        },
      ),
    );
  });

  it('the order of the list never matters', () => {
    fc.assert(
      fc.property(
        someSizes,
        aScheme,
        fc.integer({ min: 0, max: 2 }),
        fc.infiniteStream(fc.nat()),
        (sizes, scheme, spares, chance) => {
          const inOrder = drives(...sizes);
          const shuffled = inOrder
            .map((drive) => ({ drive, key: chance.next().value as number }))
            .sort((a, b) => a.key - b.key)
            .map(({ drive }) => drive);
          expect({ ...planLayout(PLAIN, scheme, shuffled, spares, 3), unused: [] }).toEqual({
            ...planLayout(PLAIN, scheme, inOrder, spares, 3),
            unused: [],
          });
        },
      ),
    );
  });

  it('reachOf is the top of the bands', () => {
    fc.assert(
      fc.property(someSizes, aScheme, aProfile, fc.integer({ min: 2, max: 5 }), (sizes, scheme, profile, width) => {
        const members = sizes.map((size, i) => ({
          bay: String(i),
          bytes: size * 1e12,
          systemBytes: Math.min(size * 1e12, profile.space.systemAreaBytes),
        }));
        const sorted = [...members].sort((a, b) => b.bytes - a.bytes);
        expect(usedHeightOf(scheme, sorted, profile.space, width)).toBe(
          Math.max(0, ...bandsOf(scheme, members, profile.space, width).map(({ toBytes }) => toBytes)),
        );
      }),
    );
  });

  it('the spare is the one a plain scan finds', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 6 }), { minLength: 2, maxLength: 9 }),
        aScheme,
        (sizes, scheme) => {
          const all = drives(...sizes);
          const chosen = planLayout(PLAIN, scheme, all, 1, 3).spareBays[0];
          const reach = (others: PlannedDrive[]) =>
            Math.max(0, ...planLayout(everything, scheme, others, 0, 3).bands.map(({ toBytes }) => toBytes));
          const able = all.filter((drive) => drive.bytes >= reach(all.filter((other) => other !== drive)));
          const least = Math.min(...able.map(({ bytes }) => bytes));
          const expected = able.filter(({ bytes }) => bytes === least).at(-1)?.bay;
          // Where the rest makes no legal pool there is nothing to stand in for.
          if (
            planLayout(
              everything,
              scheme,
              all.filter(({ bay }) => bay !== chosen),
              0,
              3,
            ).legal
          )
            expect(chosen).toBe(expected);
        },
      ),
    );
  });

  const everything: Profile = {
    ...PLAIN,
    schemes: { ...PLAIN.schemes, 'parity-1-groups': { leftovers: true }, 'parity-2-groups': { leftovers: true } },
  };

  it('no other way of making equal groups gives more (brute force up to nine drives)', () => {
    const best = (sizes: number[], width: number): number => {
      if (sizes.length === 0) return 0;
      const [first, ...rest] = sizes as [number, ...number[]];
      let most = 0;
      for (const others of subsets(
        rest.map((_, i) => i),
        width - 1,
      )) {
        const group = [first, ...others.map((i) => rest[i] as number)];
        most = Math.max(
          most,
          Math.min(...group) * (width - 1) +
            best(
              rest.filter((_, i) => !others.includes(i)),
              width,
            ),
        );
      }
      return most;
    };
    fc.assert(
      fc.property(
        fc.constantFrom([6, 3] as const, [9, 3] as const, [8, 4] as const),
        fc.infiniteStream(fc.integer({ min: 1, max: 20 })),
        ([count, width], stream) => {
          const sizes = Array.from({ length: count }, () => stream.next().value as number);
          expect(plan('parity-1-groups', sizes, 0, width).usableBytes).toBe(best(sizes, width));
        },
      ),
      { numRuns: 40 },
    );
  });

  it('mixed pools reach the optimum a linear programme finds over every possible set of drives (HiGHS)', async () => {
    const highs = await highsLoader();
    for (const [redundancy, sizes] of [
      [1, [12, 12, 6, 6, 4]],
      [2, [12, 12, 6, 6, 4]],
      [1, [20, 3, 3]],
      [2, [16, 9, 9, 8, 5, 1]],
      [1, [7, 7, 7, 1, 10, 3]],
    ] as const) {
      const names = sizes.map((_, i) => i);
      const sets = names.flatMap((k) => [...subsets(names, k + 1)]).filter((set) => set.length > redundancy);
      const programme = [
        'Maximize',
        `obj: ${sets.map((set, i) => `${String(set.length - redundancy)} x${String(i)}`).join(' + ')}`,
        'Subject To',
        ...names.map(
          (drive) =>
            `c${String(drive)}: ${sets.flatMap((set, i) => (set.includes(drive) ? [`x${String(i)}`] : [])).join(' + ')} <= ${String(sizes[drive])}`,
        ),
        'End',
      ].join('\n');
      expect(plan(redundancy === 1 ? 'mixed-1' : 'mixed-2', [...sizes]).usableBytes).toBeCloseTo(
        highs.solve(programme).ObjectiveValue,
        6,
      );
    }
  });
});
