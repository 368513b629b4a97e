import plain from '../platform/profiles/plain.json' with { type: 'json' };
import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import { must, NOW, poolOf, unitOf } from '../plan/makers/testPlans';
import { lifeOfGroup, LOST } from '../risk/memberChain';
import { apply } from '../unit/apply';
import type { DriveInUnit, UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { meanOf } from '../risk/simulate/lasting';
import { simulate } from '../risk/simulate/simulate';
import type { Lasting } from '../risk/simulate/simulatedPool';
import { foundBy, lifeOf, NOTICED, RATE_ENDS, type Care } from './assumed';
import { outlookOf, type OutlookAsked } from './outlook';
import { ageHours, lotKey } from './livesAhead';
import { poolToCome } from './poolToCome';
import { turnsAt } from './turnsAt';
import { changesOf, whatWouldChangeIt } from './whatWouldChangeIt';

const YEAR = 8760;
const SCRUB = { id: 'scrub', title: 'Scrub', every: 30, unit: 'day', from: '2026-01-01' } as const;
const CARE: Care = { notice: 'same-day', orderDays: 3, scrubDays: 30, inDrawer: 0 };
const ASKED: OutlookAsked = {
  care: CARE,
  now: NOW,
  usedShare: 0.5,
  lots: [],
  years: 1,
  failuresPerYear: [0.009, 0.04],
  seed: 1,
  mostLives: 20_000,
};
/** What is also known of drives, by serial. */
function known(unit: UnitState, of: Readonly<Record<string, Partial<DriveInUnit>>>): UnitState {
  const drives = Object.entries(unit.drives).map(([serial, drive]) => [serial, { ...drive, ...of[serial] }]);
  return { ...unit, drives: Object.fromEntries(drives) as UnitState['drives'] };
}
const happened = (unit: UnitState, ...events: Parameters<typeof apply>[1][]): UnitState =>
  events.reduce((state, event) => must(apply(state, event, NOW)), unit);
const six = unitOf(plain, [8, 8, 8, 8, 8, 8], 'parity-1', 8);
const outlook = (unit: UnitState, of: Partial<OutlookAsked> = {}) =>
  must(outlookOf(unit, poolOf(unit), { ...ASKED, ...of }));

describe('what is assumed', () => {
  it('is a life of which the share that was said fails a year, in the mean of five', () => {
    for (const shape of RATE_ENDS.map((end) => end.shape)) {
      const life = lifeOf({ failuresPerYear: 0.04, shape });
      expect(Math.exp(-(((5 * YEAR) / life.scaleHours) ** shape))).toBeCloseTo(0.96 ** 5, 12);
    }
    // The fifth year beside the second, at the bad end: √(4.5 / 1.5).
    const { shape, scaleHours } = lifeOf({ failuresPerYear: 0.04, shape: 1.5 });
    const inYear = (year: number): number =>
      ((year * YEAR) / scaleHours) ** shape - (((year - 1) * YEAR) / scaleHours) ** shape;
    expect(inYear(5) / inYear(2)).toBeCloseTo(Math.sqrt(3), 1);
  });
});

describe('a pool to come', () => {
  it('has ages from when drives were bought, or put in; signs; and a lot only where two share it', () => {
    const unit = known(six, {
      'D-1': { boughtOn: '2021-01-01', lot: '0412', model: 'M' },
      'D-2': { boughtOn: '2027-01-01', lot: '0412', model: 'M' },
      'D-3': { condition: 'suspected', lot: '0412', model: 'other' },
      'D-4': { lot: '0413' },
    });
    const { members, lots, bands } = must(
      poolToCome(unit, poolOf(unit), { ...ASKED, rates: { ...RATE_ENDS[0], failuresPerYear: 0.01 } }),
    );
    expect(members.map(({ ageHours: age }) => Math.round(age / YEAR))).toEqual([5, 0, 0, 0, 0, 0]);
    expect(members.map(({ sickness }) => sickness)).toEqual([1, 1, 14, 1, 1, 1]);
    expect(members.map(({ lot }) => lot)).toEqual([0, 0, undefined, undefined, undefined, undefined]);
    // Of which nothing was seen: as others, in the mean.
    expect(lots).toEqual([{ shape: 2, rate: 2 }]);
    expect(bands).toEqual([{ members: [0, 1, 2, 3, 4, 5], redundancy: 1, shares: [1, 1, 1, 1, 1, 1] }]);
    expect(ageHours(unit.drives['D-2'] as DriveInUnit, NOW)).toBe(0);
  });

  it('thinks worse of a lot of which one failed, wherever it was, and better of one that served', () => {
    const lot = Object.fromEntries(['D-1', 'D-2'].map((serial) => [serial, { model: 'M', lot: '0412' }]));
    const unit = known(six, lot);
    const of = (failures: number, years: readonly number[]): number => {
      const { lots } = must(
        poolToCome(unit, poolOf(unit), {
          ...ASKED,
          lots: [
            { lot: lotKey({ model: 'M', lot: '0412' }) ?? '', failures, years },
            { lot: lotKey({ model: 'other', lot: '0412' }) ?? '', failures: 9, years: [] },
          ],
          rates: { ...RATE_ENDS[1], failuresPerYear: 0.04 },
        }),
      );
      return (lots[0]?.shape ?? 0) / (lots[0]?.rate ?? 1);
    };
    expect(of(1, [])).toBeCloseTo(1.5, 12);
    // By hand: 0.96⁵ live five years, so that each has passed −5 ln 0.96 on its clock.
    expect(of(0, [5, 5, 5])).toBeCloseTo(2 / (2 - 15 * Math.log(0.96)), 9);
    const failed = happened(unit, { kind: 'drive-failed', serial: 'D-3' });
    const { members } = must(
      poolToCome(failed, poolOf(failed), { ...ASKED, rates: { ...RATE_ENDS[1], failuresPerYear: 0.04 } }),
    );
    expect(members.map(({ missing }) => missing !== undefined)).toEqual([false, false, true, false, false, false]);
  });

  it('counts a spare only while it can step in', () => {
    const spare = { ...(six.drives['D-1'] as DriveInUnit), serial: 'S-1', bay: '7' };
    const ready = (of: Partial<DriveInUnit>, jobs: UnitState['jobs'] = {}): number => {
      const unit: UnitState = {
        ...six,
        jobs,
        drives: { ...six.drives, 'S-1': { ...spare, ...of } },
        pools: { p: { ...poolOf(six), spares: ['S-1'] } },
      };
      return must(poolToCome(unit, poolOf(unit), { ...ASKED, rates: { ...RATE_ENDS[0], failuresPerYear: 0.01 } }))
        .spares.inUnit;
    };
    const onto = { j: { task: 'rebuild', pool: 'p', replaces: 'D-1', onto: 'S-1', percent: 4 } };
    expect([
      ready({}),
      ready({ condition: 'failed' }),
      ready({ condition: 'suspected' }),
      ready({ bay: null }),
      ready({}, onto as unknown as UnitState['jobs']),
    ]).toEqual([1, 0, 0, 0, 0]);
  });

  it('is refused with the reason where something else comes first', () => {
    const lost = happened(six, { kind: 'drive-failed', serial: 'D-1' }, { kind: 'drive-failed', serial: 'D-2' });
    const code = (unit: UnitState): string | undefined => {
      const made = outlookOf(unit, poolOf(unit), ASKED);
      return isRefusal(made) ? made.code : undefined;
    };
    expect([
      code(lost),
      code({ ...six, away: ['Extension 1'] }),
      code({ ...six, retired: { at: NOW } }),
      code({ ...six, pools: { p: { ...poolOf(six), building: true } } }),
      code(six),
    ]).toEqual(['pool-lost', 'enclosure-away', 'not-in-use', 'still-building', undefined]);
  });
});

describe('the year ahead', () => {
  it('is the exact chain’s where drives do not age, nobody waits and rebuilds have no memory', () => {
    // Not alike by chance: a chain of the same rates, its repair the mean of notice, order and rebuild.
    const { ends } = outlook(six, { failuresPerYear: [0.04, 0.04] });
    const pool = must(poolToCome(six, poolOf(six), { ...ASKED, rates: { ...RATE_ENDS[0], failuresPerYear: 0.04 } }));
    const [member] = pool.members;
    const mean = (of: { leastHours: number; scaleHours: number }): number => of.leastHours + of.scaleHours * 0.89;
    const hours = mean(NOTICED['same-day']) + 72 + mean(member?.rebuild as { leastHours: number; scaleHours: number });
    // New drives of shape 1.12 fail less in their first year than in the mean of five.
    const inFirst = (YEAR / lifeOf({ failuresPerYear: 0.04, shape: 1.12 }).scaleHours) ** 1.12 / YEAR;
    const chain = lifeOfGroup(
      {
        kinds: [{ count: 6, failureRate: inFirst, rebuildHours: hours, unreadablePerByte: 0, bands: [0] }],
        bands: [{ redundancy: 1, readBytes: 0 }],
        repairs: 'parallel',
        spares: 0,
        orderHours: 0,
      },
      false,
    ).by(YEAR)[LOST] as number;
    expect(ends[0].lost.likely / chain).toBeGreaterThan(0.9);
    expect(ends[0].lost.likely / chain).toBeLessThan(1.1);
  });

  it('is worse the worse it is looked after, the older the drives and the sicker one is; the same question has the same answer', () => {
    const lost = (unit: UnitState, care: Partial<Care> = {}): number =>
      outlook(unit, { care: { ...CARE, ...care } }).ends[1].lost.likely;
    const usual = lost(six);
    expect(lost(six)).toBe(usual);
    expect(lost(six, { notice: 'after-weeks' })).toBeGreaterThan(2 * usual);
    expect(lost(six, { inDrawer: 1 })).toBeLessThan(0.7 * usual);
    const old = Object.fromEntries(Object.keys(six.drives).map((serial) => [serial, { boughtOn: '2019-01-01' }]));
    expect(lost(known(six, old))).toBeGreaterThan(2 * usual);
    expect(lost(known(six, { 'D-2': { condition: 'suspected' } }))).toBeGreaterThan(3 * usual);
    const thin = happened(six, { kind: 'drive-failed', serial: 'D-1' });
    expect(lost(thin)).toBeGreaterThan(1.5 * usual);
    expect(outlook(six).oneFails[1]).toBeGreaterThan(outlook(six).oneFails[0]);
  });

  it('loses what a box takes with it as often as is said, once and whatever drives do; and what stands in two boxes box by box', () => {
    const share = 0.02;
    const usual = outlook(six).ends[1].lost.likely;
    const boxed = outlook(six, { care: { ...CARE, boxLossesPerYear: share } }).ends[1].lost;
    // By hand: it is lost unless neither comes.
    const both = 1 - (1 - share) * (1 - usual);
    expect(boxed.low).toBeLessThan(both * 1.05);
    expect(boxed.high).toBeGreaterThan(both * 0.95);
    expect(boxed.likely / both).toBeGreaterThan(0.85);
    expect(boxed.likely / both).toBeLessThan(1.15);
    const [first, second] = [
      ['1', '2', '3'],
      ['4', '5', '6', '7', '8'],
    ].map((bays, i) => ({
      ...(six.enclosures[0] as UnitState['enclosures'][number]),
      name: `Box ${String(i + 1)}`,
      bays,
    }));
    const apart = { ...six, enclosures: [first, second] } as UnitState;
    const pool = must(
      poolToCome(apart, poolOf(apart), {
        ...ASKED,
        care: { ...CARE, boxLossesPerYear: share },
        rates: { ...RATE_ENDS[0], failuresPerYear: 0.01 },
      }),
    );
    expect(pool.sharedLosses.map(({ members }) => members)).toEqual([
      [0, 1, 2],
      [3, 4, 5],
    ]);
    expect(Math.exp(-(pool.sharedLosses[0]?.perHour ?? 0) * YEAR)).toBeCloseTo(1 - share, 12);
  });

  it('meets fewer unreadable sectors the more often everything is read, and stops or loses a file as the family does', () => {
    const met = (scrubDays: number | null): number =>
      outlook(known(six, { 'D-1': { boughtOn: '2021-01-01' } }), { care: { ...CARE, scrubDays } }).ends[1].met.likely;
    expect(met(7)).toBeLessThan(met(30));
    expect(met(30)).toBeLessThan(met(null));
    expect(outlook(six).unreadable).toBe(plain.rebuild.unreadableSector === 'aborts' ? 'stops' : 'file-lost');
    const mirror = unitOf(reedbank, [8, 8], 'mirror', 2);
    expect(outlook(mirror).unreadable).toBe(reedbank.rebuild.unreadableSector === 'aborts' ? 'stops' : 'file-lost');
    expect(foundBy(null)).toBeNull();
  });

  it('finds a sector after half the interval in the mean, counted from the last time on record', () => {
    // A sector goes bad at any moment between two scrubs: in the mean it waits half of what lies between them.
    expect(meanOf(foundBy(30) as Lasting)).toBe(360);
    const scrubbed = happened(six, { kind: 'upkeep-planned', tasks: [SCRUB] }, { kind: 'upkeep-done', task: 'scrub' });
    const at = (days: number) =>
      must(
        poolToCome(scrubbed, poolOf(scrubbed), {
          ...ASKED,
          care: { ...CARE, notice: 'within-the-hour', inDrawer: 1 },
          now: new Date(Date.parse(NOW) + days * 86_400_000).toISOString(),
          rates: { ...RATE_ENDS[1], failuresPerYear: 0.04 },
        }),
      );
    expect(at(12).latent).toMatchObject({ sinceHours: 288 });
    expect(
      'sinceHours' in
        must(poolToCome(six, poolOf(six), { ...ASKED, rates: { ...RATE_ENDS[1], failuresPerYear: 0.04 } })).latent,
    ).toBe(false);
    // Within three days before the next scrub nothing that went bad is found: the more, the longer ago everything was read.
    const met = (days: number): number =>
      simulate(at(days), { hours: 72, seed: 3, mostLives: 20_000, closeTo: 0.02 }).met.likely;
    expect(met(27)).toBeGreaterThan(0);
    expect(met(1)).toBeLessThan(met(27) / 3);
  });

  it('never calls a failure rarer than what it takes along: a box that goes takes its drives', () => {
    for (const share of [0, 0.01, 0.1, 0.3])
      for (const years of [1, 5]) {
        const made = outlook(six, { years, care: { ...CARE, boxLossesPerYear: share } });
        for (const end of [0, 1] as const) {
          expect(made.oneFails[end]).toBeGreaterThanOrEqual(made.ends[end].lost.low);
          expect(made.oneFails[end]).toBeGreaterThanOrEqual(1 - (1 - share) ** years - 1e-12);
        }
      }
  });
});

describe('what would change it', () => {
  const care: Care = { ...CARE, notice: 'after-a-weekend' };
  const changes = (unit: UnitState) =>
    must(whatWouldChangeIt(unit, poolOf(unit), { ...ASKED, care, mostLives: 10_000 }));
  const words = (unit: UnitState): string[] =>
    changes(unit).map(({ change }) =>
      change.kind === 'replace' ? `${change.which} ${change.serials.join()}` : change.kind,
    );
  const old = { boughtOn: '2020-06-01', lot: '0412' };

  it('puts the sick drive’s replacement first, and says what all of its age would win beyond that', () => {
    const unit = known(six, {
      'D-1': old,
      'D-2': { ...old, condition: 'suspected' },
      'D-3': old,
      'D-4': { boughtOn: '2020-07-01' },
    });
    const seen = changes(unit);
    const winOf = (which: string): number =>
      seen.find(({ change }) => change.kind === 'replace' && change.which === which)?.lost.wins ?? NaN;
    expect(words(unit)).toEqual(
      expect.arrayContaining([
        'sick D-2',
        'oldest D-1',
        'of-its-age D-1,D-2,D-3,D-4',
        'of-its-lot D-1,D-2,D-3',
        'scrub-weekly',
      ]),
    );
    expect(winOf('sick')).toBeGreaterThan(3 * winOf('oldest'));
    expect(winOf('of-its-age')).toBeGreaterThan(winOf('sick'));
    for (const { wins, low, high, before, after } of seen.flatMap(({ gone, lost, met }) => [gone, lost, met])) {
      expect(before - after).toBeCloseTo(wins, 12);
      expect([low <= wins, wins <= high]).toEqual([true, true]);
    }
    // This family stops a rebuild at an unreadable sector, and no data is gone by that: the order is that of lost pools.
    const lost = seen.map((one) => one.lost.wins);
    expect(seen.map(({ gone }) => gone.wins)).toEqual(lost);
    expect(lost).toEqual([...lost].sort((a, b) => b - a));
  });

  it('says from which weight of a stopped rebuild on another comes first (worked by hand)', () => {
    const won = (wins: number) => ({ before: 1, after: 1 - wins, wins, low: wins, high: wins });
    const one = (kind: 'spare-in-drawer' | 'scrub-weekly' | 'notice-same-day', lost: number, met: number) => ({
      change: { kind },
      drives: 0,
      gone: won(lost),
      lost: won(lost),
      met: won(met),
    });
    // 0.30 + w · 0.01 = 0.10 + w · 0.41 at w = 1/2; the third overtakes only at 2.5, which is more than a lost pool.
    const seen = [
      one('notice-same-day', 0.3, 0.01),
      one('scrub-weekly', 0.1, 0.41),
      one('spare-in-drawer', 0.05, 0.11),
    ];
    expect(turnsAt(seen)?.weight).toBeCloseTo(0.5, 12);
    expect(turnsAt(seen)?.first.change.kind).toBe('scrub-weekly');
    expect(turnsAt(seen.slice(0, 1))).toBeNull();
    expect(turnsAt([one('notice-same-day', 0.3, 0.01), one('spare-in-drawer', 0.05, 0.11)])).toBeNull();
  });

  it('tells nothing where the time is over before anything can be told', () => {
    expect(must(whatWouldChangeIt(six, poolOf(six), { ...ASKED, isOver: () => true }))).toEqual([]);
  });

  it('offers only what is otherwise now, once each, and no new drive for a new one', () => {
    const aged = known(
      six,
      Object.fromEntries(Object.keys(six.drives).map((serial) => [serial, { boughtOn: '2023-01-01' }])),
    );
    expect(words(aged)).toEqual(
      expect.arrayContaining(['spare-in-drawer', 'scrub-weekly', 'notice-same-day', 'one-more-may-fail', 'oldest D-1']),
    );
    const toCome = (unit: UnitState) =>
      must(poolToCome(unit, poolOf(unit), { ...ASKED, rates: { ...RATE_ENDS[1], failuresPerYear: 0.04 } }));
    const kinds = (unit: UnitState, of: Partial<Care> = {}, inUnit = 0) =>
      changesOf({ ...toCome(unit), spares: { inUnit, inDrawer: 0 } }, { ...CARE, ...of }).map(
        ({ change }) => change.kind,
      );
    expect(kinds(aged, { scrubDays: 7 }, 1)).toEqual(['one-more-may-fail', 'replace', 'replace']);
    expect(kinds(six, { scrubDays: 7 }, 1)).toEqual(['one-more-may-fail']);
    // All are of one age: that is one offer, not two.
    const replaced = changesOf(toCome(aged), CARE).filter(({ change }) => change.kind === 'replace');
    expect(replaced.map(({ drives }) => drives)).toEqual([1, 6]);
    // Without redundancy only a copy helps; with a member missing only its replacement does.
    expect(words(unitOf(plain, [8, 8], 'stripe', 4))).toEqual([]);
    expect(words(happened(six, { kind: 'drive-failed', serial: 'D-1' }))).toEqual([]);
    expect(outlook(unitOf(plain, [8, 8], 'stripe', 4)).unreadable).toBeNull();
  });

  it('adds a member to every group, one to bands above one another', () => {
    const groups = unitOf(plain, [8, 8, 8, 8, 8, 8], 'parity-1-groups', 8, 3);
    const mixed = unitOf(plain, [4, 4, 8, 8], 'mixed-1', 8);
    for (const [unit, drives] of [
      [groups, 2],
      [mixed, 1],
    ] as const) {
      const toCome = must(
        poolToCome(unit, poolOf(unit), { ...ASKED, rates: { ...RATE_ENDS[1], failuresPerYear: 0.04 } }),
      );
      const more = changesOf(toCome, CARE).find(({ change }) => change.kind === 'one-more-may-fail');
      expect(more?.drives).toBe(drives);
      expect(
        more?.pool.bands.every(
          ({ redundancy, members, shares }) => redundancy === 2 && members.length === shares.length,
        ),
      ).toBe(true);
    }
  });
});
