import fc from 'fast-check';
import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import tidemill from '../platform/profiles/tidemill.json' with { type: 'json' };
import { labelBytes } from '../drive/labelBytes';
import { planLayout } from '../layout/planLayout';
import { SCHEMES, type Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { addedAtATime, addToPool } from './added';
import { membersOfBands, usableOf, type BuiltPool, type PoolDrive } from './builtPool';
import { conversionsOf, convertPool } from './converted';
import { grownBands } from './grown';
import { neededHeight } from './neededHeight';
import { poolOfLayout } from './ofLayout';
import { oneMoreDrive } from './oneMore';
import { whyNotBands, whyNotGrownFrom } from './whyNotBands';

const PROFILES = [plain, reedbank, saltern, tidemill, causeway] as unknown as readonly Profile[];
const [PLAIN, REEDBANK, SALTERN, TIDEMILL] = PROFILES as readonly [Profile, Profile, Profile, Profile];
const TB = (n: number): number => labelBytes(n * 1000);

const named = (sizes: readonly number[]): Map<string, PoolDrive> =>
  new Map(sizes.map((bytes, i) => [String(i + 1), { name: String(i + 1), bytes }]));
const scratch = (profile: Profile, scheme: Scheme, drives: Iterable<PoolDrive>, width?: number) =>
  planLayout(
    profile,
    scheme,
    [...drives].map(({ name, bytes }) => ({ bay: name, bytes })),
    0,
    width,
  );
const built = (profile: Profile, scheme: Scheme, sizes: readonly number[], width?: number): BuiltPool =>
  poolOfLayout(scratch(profile, scheme, named(sizes).values(), width));
/** The pool of these sizes, with some members as large as they are now. */
const grown = (profile: Profile, pool: BuiltPool, sizes: readonly number[]): BuiltPool => ({
  ...pool,
  bands: grownBands(profile, pool, named(sizes)),
});
const pairsOf = ({ bands }: BuiltPool): string[] => bands.map(({ members }) => [...members].sort().join());

describe('a built pool that grows', () => {
  it.each([PLAIN, REEDBANK])(
    'keeps its pairs: two larger drives in two pairs give nothing, and the other of each still carries it ($id)',
    (profile) => {
      const pool = built(profile, 'striped-mirrors', [TB(4), TB(4), TB(4), TB(4)]);
      const after = grown(profile, pool, [TB(8), TB(4), TB(8), TB(4)]);
      expect([pairsOf(after), usableOf(after.bands)]).toEqual([pairsOf(pool), usableOf(pool.bands)]);
      expect(pairsOf(pool)).toEqual(['1,2', '3,4']);
      // A pair that is larger whole is, where pairs count by themselves.
      const pair = grown(profile, pool, [TB(8), TB(8), TB(4), TB(4)]);
      expect(usableOf(pair.bands) - usableOf(pool.bands)).toBe(profile === PLAIN ? TB(8) - TB(4) : 0);
    },
  );

  it('keeps its groups: a larger drive in each gives nothing', () => {
    const sizes = Array<number>(6).fill(TB(4));
    const pool = built(PLAIN, 'parity-1-groups', sizes, 3);
    const after = grown(PLAIN, pool, [TB(8), TB(4), TB(4), TB(8), TB(4), TB(4)]);
    expect([pairsOf(after), usableOf(after.bands)]).toEqual([pairsOf(pool), usableOf(pool.bands)]);
  });

  it('keeps the roles of dedicated parity, and uses no data drive above the smallest parity drive', () => {
    const pool = built(TIDEMILL, 'dedicated-1', [TB(8), TB(8), TB(4)]);
    const parity = pool.bands[0]?.members[0];
    const larger = grown(TIDEMILL, pool, [TB(12), TB(8), TB(4)]);
    expect(larger.bands[0]?.members[0]).toBe(parity);
    const system = TIDEMILL.space.systemAreaBytes;
    expect(parity).toBe('2');
    expect(usableOf(larger.bands)).toBe(TB(8) + TB(4) - 2 * system);
    expect(usableOf(grown(TIDEMILL, pool, [TB(12), TB(12), TB(4)]).bands)).toBe(TB(12) + TB(4) - 2 * system);
  });

  it('takes members that now reach a band’s top into it, and cuts new ones above, at the family’s granularity', () => {
    const pool = built(SALTERN, 'mixed-1', [TB(20), TB(8), TB(8)]);
    const one = oneMoreDrive(SALTERN, pool, named([TB(20), TB(8), TB(8)]), TB(20));
    const { systemAreaBytes: system, cutGranularityBytes: grain } = SALTERN.space;
    const cut = (bytes: number): number => Math.floor((bytes - system) / grain) * grain;
    // By hand: one more member in the lowest band, and a mirror of two from there to the top.
    expect(one.gainedBytes).toBe(cut(TB(8)) + cut(TB(20)) - cut(TB(8)));
    expect(
      scratch(SALTERN, 'mixed-1', named([TB(20), TB(8), TB(8), TB(20)]).values()).usableBytes - usableOf(pool.bands),
    ).toBe(one.gainedBytes);
  });

  it.each<[number, number]>([
    [8, 7.99],
    [6, 5.99],
  ])('saltern built 4, 4, 8: one of %d TB adds %d', (size, gained) => {
    const pool = built(SALTERN, 'mixed-1', [TB(4), TB(4), TB(8)]);
    const { gainedBytes } = oneMoreDrive(SALTERN, pool, named([TB(4), TB(4), TB(8)]), TB(size));
    expect(Math.round(gainedBytes / 1e10) / 100).toBe(gained);
  });

  it('plain built 3 × 4, with members of 4, 8 and 12 now: one of 12 adds no more than 16', () => {
    const pool = built(PLAIN, 'mixed-1', [4e12, 4e12, 4e12]);
    expect(oneMoreDrive(PLAIN, pool, named([4e12, 8e12, 12e12]), 12e12).gainedBytes).toBe(16e12);
  });

  it.each<[string, Profile, Scheme, readonly number[], number, RegExp]>([
    ['a drive too small for a level', PLAIN, 'parity-1', [8, 8, 8], 4, /^Too small: every member must hold 8 TB/],
    ['a drive larger than parity', TIDEMILL, 'dedicated-1', [8, 4], 10, /has to become parity first/],
    ['one drive for pairs', PLAIN, 'striped-mirrors', [8, 8, 8, 8], 8, /grow by pairs/],
    ['one drive for groups', causeway as unknown as Profile, 'parity-2', [16, 16, 16, 16], 16, /whole groups/],
    ['one more than the family takes', REEDBANK, 'mirror', [8, 8, 8, 8], 8, /at most 4 drives/],
    ['a drive no band reaches', PLAIN, 'mixed-1', [8, 8], 4, /reaches no band’s top/],
  ])('says why it takes %s in no way', (_what, profile, scheme, sizes, more, why) => {
    const bytes = sizes.map(TB);
    expect(oneMoreDrive(profile, built(profile, scheme, bytes), named(bytes), TB(more))).toEqual({
      gainedBytes: 0,
      sentence: expect.stringMatching(why),
    });
  });
});

/** A mixed pool slice by slice, a TB high each: another way to reckon the same, for whole TB and no granularity. */
class Slices {
  private readonly bands: { from: number; to: number; members: Set<number> }[] = [];
  private readonly sizes: number[] = [];
  constructor(
    sizes: readonly number[],
    private readonly redundancy: number,
  ) {
    this.sizes.push(...sizes);
    this.rise(0);
  }
  /** A drive larger, or one more. */
  set(at: number, size: number): void {
    this.sizes[at] = size;
    for (const band of this.bands)
      if (size >= band.to && (at < this.sizes.length - 1 || this.bands.some(({ to }) => size >= to)))
        band.members.add(at);
    this.rise(this.bands.at(-1)?.to ?? 0);
  }
  private rise(from: number): void {
    const inPool = (i: number): boolean => this.bands.length === 0 || (this.bands[0]?.members.has(i) ?? false);
    for (let bottom = from; ;) {
      const taller = this.sizes.flatMap((size, i) => (size > bottom && inPool(i) ? i : []));
      if (taller.length <= this.redundancy) return;
      const to = Math.min(...taller.map((i) => this.sizes[i] as number));
      this.bands.push({ from: bottom, to, members: new Set(taller) });
      bottom = to;
    }
  }
  usable(): number {
    return this.bands.reduce((sum, { from, to, members }) => sum + (to - from) * (members.size - this.redundancy), 0);
  }
}

describe('a mixed pool that begins with one drive', () => {
  const alone = built(SALTERN, 'mixed-1', [TB(4)]);
  const members = named([TB(4)]);

  it('is legal only where the family says so, is one drive, and survives none', () => {
    expect(scratch(PLAIN, 'mixed-1', members.values()).legal).toBe(false);
    const layout = scratch(SALTERN, 'mixed-1', members.values());
    expect(layout).toMatchObject({ legal: true, guaranteedFailures: 0, bands: [{ kind: 'single', redundancy: 0 }] });
    expect(layout.usableBytes + layout.unusedBytes + layout.systemBytes).toBe(TB(4));
    expect(layout.reasons.join(' ')).toContain('nothing guards it');
    // A spare has nothing to rebuild from.
    expect(
      planLayout(
        SALTERN,
        'mixed-1',
        [
          { bay: '1', bytes: TB(4) },
          { bay: '2', bytes: TB(4) },
        ],
        1,
      ).legal,
    ).toBe(false);
    const stays = (profile: Profile) => whyNotBands(profile, alone, usableOf(alone.bands), () => TB(4));
    expect([stays(SALTERN), stays(PLAIN)?.code]).toEqual([undefined, 'bands-inconsistent']);
  });

  it('uses a larger drive whole, is a mirror with a second one as large, and takes no smaller one', () => {
    expect(usableOf(grown(SALTERN, alone, [TB(8)]).bands)).toBe(
      scratch(SALTERN, 'mixed-1', named([TB(8)]).values()).usableBytes,
    );
    const second = (size: number) => addToPool(SALTERN, alone, members, [{ name: '2', bytes: TB(size) }]);
    expect(second(6)).toMatchObject({
      gainedBytes: 0,
      bands: [{ kind: 'mirror', redundancy: 1, members: ['1', '2'] }],
      sentence: expect.stringContaining('becomes a mirror') as string,
    });
    expect(second(2)).toMatchObject({ code: 'too-small' });
    // A third makes parity of it, as from scratch.
    const two = second(4);
    if (isRefusal(two)) throw new Error(two.sentence);
    const three = addToPool(SALTERN, { ...alone, bands: two.bands }, named([TB(4), TB(4)]), [
      { name: '3', bytes: TB(4) },
    ]);
    expect(isRefusal(three) ? three.sentence : usableOf(three.bands)).toBe(
      scratch(SALTERN, 'mixed-1', named([TB(4), TB(4), TB(4)]).values()).usableBytes,
    );
  });
});

describe('growing and adding (property)', () => {
  const sizes = [2, 3, 4, 6, 8, 12];
  const history = fc.record({
    profile: fc.constantFrom(...PROFILES),
    scheme: fc.constantFrom(...SCHEMES),
    start: fc.array(fc.constantFrom(...sizes), { minLength: 1, maxLength: 8 }),
    width: fc.constantFrom(3, 4),
    steps: fc.array(fc.record({ isAdded: fc.boolean(), at: fc.nat(7), size: fc.constantFrom(...sizes) }), {
      maxLength: 8,
    }),
  });

  it('is idempotent, never shrinks, is never more than from scratch, and always bands that can be: all five profiles', () => {
    let [grew, addedTo] = [0, 0];
    fc.assert(
      fc.property(history, ({ profile, scheme, start, width, steps }) => {
        const isGrouped = scheme.endsWith('groups');
        const layout = scratch(profile, scheme, named(start.map(TB)).values(), isGrouped ? width : undefined);
        fc.pre(layout.legal);
        let pool = poolOfLayout(layout);
        let drives = new Map([...named(start.map(TB))].filter(([name]) => membersOfBands(pool.bands).includes(name)));
        for (const [n, { isAdded, at, size }] of steps.entries()) {
          const before = pool;
          if (isAdded) {
            const fresh = Array.from({ length: addedAtATime(profile, pool) }, (_, i): PoolDrive => ({
              name: `n${String(n)}-${String(i)}`,
              bytes: TB(size),
            }));
            const added = addToPool(profile, pool, drives, fresh);
            if (isRefusal(added)) continue;
            addedTo++;
            drives = new Map([...drives, ...fresh.map((drive) => [drive.name, drive] as const)]);
            pool = { ...pool, bands: added.bands };
            expect(added.gainedBytes).toBe(usableOf(pool.bands) - usableOf(before.bands));
            expect(added.gainedBytes).toBeGreaterThanOrEqual(0);
          } else {
            const member = [...drives.values()][at % drives.size] as PoolDrive;
            const larger = Math.max(member.bytes, TB(size));
            drives = new Map([...drives, [member.name, { ...member, bytes: larger }]]);
            pool = { ...pool, bands: grownBands(profile, pool, drives) };
            if (usableOf(pool.bands) > usableOf(before.bands)) grew++;
          }
          const usable = usableOf(pool.bands);
          expect(usable).toBeGreaterThanOrEqual(usableOf(before.bands));
          expect(grownBands(profile, pool, drives)).toEqual(pool.bands);
          expect(whyNotBands(profile, pool, usable, (name) => drives.get(name)?.bytes ?? 0)).toBeUndefined();
          expect(whyNotGrownFrom(before, pool.bands)).toBeUndefined();
          const anew = scratch(profile, scheme, drives.values(), isGrouped ? width : undefined);
          if (anew.legal) expect(usable).toBeLessThanOrEqual(anew.usableBytes);
          for (const [name, { bytes }] of drives) expect(neededHeight(pool.bands, name)).toBeLessThanOrEqual(bytes);
        }
      }),
      { numRuns: 1200 },
    );
    expect(Math.min(grew, addedTo)).toBeGreaterThan(100);
  });

  it('of mixed pools agrees with counting them slice by slice', () => {
    const steps = fc.array(fc.record({ isAdded: fc.boolean(), at: fc.nat(7), size: fc.integer({ min: 1, max: 9 }) }), {
      maxLength: 7,
    });
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 3, maxLength: 5 }),
        fc.constantFrom(1, 2),
        steps,
        (start, redundancy, doings) => {
          const scheme = redundancy === 1 ? 'mixed-1' : 'mixed-2';
          let pool = built(
            PLAIN,
            scheme,
            start.map((n) => n * 1e12),
          );
          fc.pre(pool.bands.length > 0);
          const now = [...start];
          const slices = new Slices(start, redundancy);
          for (const { isAdded, at, size } of doings) {
            const drives = named(now.map((n) => n * 1e12));
            if (isAdded) {
              const added = addToPool(PLAIN, pool, drives, [{ name: String(now.length + 1), bytes: size * 1e12 }]);
              if (isRefusal(added)) continue;
              now.push(size);
              pool = { ...pool, bands: added.bands };
              slices.set(now.length - 1, size);
            } else {
              const i = at % now.length;
              now[i] = Math.max(now[i] as number, size);
              pool = { ...pool, bands: grownBands(PLAIN, pool, named(now.map((n) => n * 1e12))) };
              slices.set(i, now[i] as number);
            }
            expect(usableOf(pool.bands)).toBe(slices.usable() * 1e12);
          }
        },
      ),
      { numRuns: 1500 },
    );
  });
});

describe('a change of level', () => {
  it('names what there is then and the most the data may be, and refuses what does not fit with the number', () => {
    const members = named([4e12]);
    const pool = built(REEDBANK, 'separate', [4e12]);
    const second = [{ name: 'new', bytes: 1e12 }];
    const mirror = convertPool(REEDBANK, pool, 'mirror', members, second);
    const { systemAreaBytes, poolMetadataBytes, fileSystemReserveShare } = REEDBANK.space;
    const shown = 1e12 - systemAreaBytes - poolMetadataBytes;
    expect(mirror).toMatchObject({
      keepsData: true,
      usableBytes: 1e12 - systemAreaBytes,
      mostDataBytes: shown - Math.floor(shown * fileSystemReserveShare),
    });
    expect(convertPool(REEDBANK, pool, 'mirror', members, second, 2e12)).toMatchObject({
      code: 'no-room',
      sentence: expect.stringMatching(/^2 TB are in it, and Mirror .* would hold 985/),
    });
    expect(convertPool(REEDBANK, pool, 'parity-2', members)).toMatchObject({ code: 'not-offered' });
  });

  it('is offered only with drives and bays for it', () => {
    const two = named([4e12, 4e12]);
    const pool = built(REEDBANK, 'mirror', [4e12, 4e12]);
    expect(conversionsOf(REEDBANK, pool, two, 0)).toMatchObject({
      possible: [],
      not: [{ to: 'parity-1', why: expect.stringContaining('Needs at least 3 drives') }],
    });
    expect(conversionsOf(REEDBANK, pool, two, 1).possible).toMatchObject([{ to: 'parity-1', addedDrives: 1 }]);
    expect(conversionsOf(PLAIN, pool, two, 9)).toEqual({ possible: [], not: [] });
  });

  it('makes a mirror of a single drive only: several have files of their own', () => {
    const pool = built(REEDBANK, 'separate', [4e12, 4e12]);
    expect(convertPool(REEDBANK, pool, 'mirror', named([4e12, 4e12]))).toMatchObject({
      code: 'own-files',
      sentence: expect.stringMatching(/^Each of its 2 drives has files of its own/),
    });
  });

  it('adds parity beside data drives without moving a role, and takes none that is too small for it', () => {
    // Equal drives: planned from scratch the later bay would be parity, and a data drive would be overwritten.
    const sizes = [8e12, 8e12, 4e12];
    const pool = built(TIDEMILL, 'dedicated-1', sizes);
    const [parity] = pool.bands[0]?.members ?? [];
    const usable = usableOf(pool.bands);
    expect(convertPool(TIDEMILL, pool, 'dedicated-2', named(sizes))).toMatchObject({ code: 'parity-added' });
    expect(convertPool(TIDEMILL, pool, 'dedicated-2', named(sizes), [{ name: 'new', bytes: 6e12 }])).toMatchObject({
      code: 'parity-too-small',
    });
    const made = convertPool(TIDEMILL, pool, 'dedicated-2', named(sizes), [{ name: 'new', bytes: 10e12 }]);
    expect(made).toMatchObject({ kind: 'pool-conversion', usableBytes: usable, addedDrives: 1 });
    expect('bands' in made ? made.bands[0]?.members.slice(0, 2) : []).toEqual([parity, 'new']);
    expect('bands' in made ? new Set(made.bands.map(({ redundancy }) => redundancy)) : new Set()).toEqual(new Set([2]));
    expect(conversionsOf(TIDEMILL, pool, named(sizes), 1).possible).toMatchObject([
      { to: 'dedicated-2', addedDrives: 1 },
    ]);
  });

  it('keeps no data where the family says it erases', () => {
    const three = named([4e12, 4e12, 4e12]);
    expect(convertPool(REEDBANK, built(REEDBANK, 'stripe', [4e12, 4e12, 4e12]), 'parity-1', three)).toMatchObject({
      keepsData: false,
      mostDataBytes: 0,
    });
  });
});

describe('bands that cannot be', () => {
  const of = (bands: BuiltPool['bands'], scheme: Scheme = 'parity-1') =>
    whyNotBands(PLAIN, { scheme, bands }, usableOf(bands), () => 9);
  const band = {
    kind: 'parity' as const,
    fromBytes: 0,
    toBytes: 8,
    members: ['a', 'b', 'c'],
    redundancy: 1,
    usableBytes: 16,
  };
  it.each<[string, BuiltPool['bands'], Scheme]>([
    ['another redundancy than the level has', [{ ...band, redundancy: 2, usableBytes: 8 }], 'parity-1'],
    ['more bytes than they have', [{ ...band, usableBytes: 24 }], 'parity-1'],
    ['another kind', [{ ...band, kind: 'mirror' }], 'parity-1'],
    ['a level in two bands', [band, { ...band, fromBytes: 8, toBytes: 9, usableBytes: 2 }], 'parity-1'],
    ['too few members', [{ ...band, members: ['a', 'b'], usableBytes: 8 }], 'parity-1'],
    ['three to a pair', [{ ...band, kind: 'mirror', redundancy: 1 }], 'striped-mirrors'],
    [
      'a gap between bands',
      [band, { ...band, kind: 'mirror', fromBytes: 8.5, toBytes: 9, members: ['a', 'b'], usableBytes: 0.5 }],
      'mixed-1',
    ],
    [
      'a stranger in a higher band',
      [
        { ...band, members: ['a', 'b', 'c'] },
        { ...band, kind: 'mirror', fromBytes: 8, toBytes: 9, members: ['a', 'x'], usableBytes: 1 },
      ],
      'mixed-1',
    ],
    [
      'parity on other drives higher up',
      [
        { ...band, kind: 'dedicated' },
        { ...band, kind: 'dedicated', fromBytes: 8, toBytes: 9, members: ['b', 'a'], usableBytes: 1 },
      ],
      'dedicated-1',
    ],
    [
      'a drive in two pairs',
      [
        { ...band, kind: 'mirror', members: ['a', 'b'], usableBytes: 8 },
        { ...band, kind: 'mirror', members: ['b', 'c'], usableBytes: 8 },
        { ...band, kind: 'mirror', members: ['d', 'e'], usableBytes: 8 },
      ],
      'striped-mirrors',
    ],
  ])('%s', (_what, bands, scheme) =>
    expect(of(bands, scheme)).toMatchObject({ kind: 'refusal', code: 'bands-inconsistent' }),
  );

  it('are not made of built ones by pairing them anew', () => {
    const pair = (...members: string[]) => ({ ...band, kind: 'mirror' as const, members, usableBytes: 8 });
    const pool = { scheme: 'striped-mirrors' as const, bands: [pair('a', 'b'), pair('c', 'd')] };
    expect(whyNotGrownFrom(pool, [pair('a', 'c'), pair('b', 'd')])).toMatchObject({ code: 'bands-cut-anew' });
    expect(whyNotGrownFrom(pool, [pair('b', 'a'), pair('c', 'd'), pair('e', 'f')])).toBeUndefined();
    expect(whyNotGrownFrom(pool, [{ ...pair('a', 'b'), toBytes: 7 }, pair('c', 'd')])).toMatchObject({
      code: 'bands-cut-anew',
    });
  });
});
