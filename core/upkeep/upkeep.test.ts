import fc from 'fast-check';
import ICAL from 'ical.js';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import tidemill from '../platform/profiles/tidemill.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import type { UnitEvent } from '../unit/event';
import type { UnitState } from '../unit/state';
import { needsHands } from './needsHands';
import { type WatchedUnit } from './need';
import { decodeLamp } from './decodeLamp';
import { nextOccurrence } from './occurrence';
import { spareCoverage, type DrawerDrive } from './spareCoverage';
import { usualUpkeep } from './upkeepOf';
import { volumeAgainstPool } from './volumeAgainstPool';
import { afterEvents, eventsOfUnit } from '../unit/testUnit';

function unit(name: string, ...later: UnitEvent[]): { id: string; state: UnitState; used: Record<string, number> } {
  const sizes = [8e12, 8e12, 8e12, 8e12];
  const begun = eventsOfUnit({
    profile: plain,
    scheme: 'parity-2',
    sizes,
    name,
    pool: 'Pool 1',
    serialIn: (bay) => `${name}-${bay}`,
  });
  return { id: name, state: afterEvents(null, [...begun, ...later], '2026-01-01T00:00:00.000Z'), used: {} };
}

const NOW = '2026-01-02T00:00:00.000Z';
const DRAWERS: DrawerDrive[] = [
  { serial: 'D1', bytes: 8e12, basis: 'exact', place: { site: 'S', room: 'R', drawer: 'top' } },
];
const failed = (serial: string): UnitEvent => ({ kind: 'drive-failed', serial });

describe('needsHands', () => {
  it('puts loss before no margin before some margin before signs before fullness', () => {
    const lost = unit('Lost', failed('Lost-1'), failed('Lost-2'), failed('Lost-3'));
    const none = unit('None', failed('None-1'), failed('None-2'));
    const one = unit('One', failed('One-2'));
    const sign = unit('Sign', { kind: 'drive-suspected', serial: 'Sign-4', note: 'clicking' });
    const full = { ...unit('Full'), used: { p: 16e12 * 0.83 } };
    const needs = needsHands([full, sign, one, none, lost, unit('Well')], DRAWERS, NOW).filter(
      ({ urgency }) => urgency < 24 || (urgency > 29 && urgency < 31),
    );
    expect(needs.map(({ unit: id, code }) => `${id} ${code}`)).toEqual([
      'Lost pool-stopped',
      'None member-failed',
      'None member-failed',
      'One member-failed',
      'Sign sign-growing',
      'Full near-full',
    ]);
    expect(needs[1]?.reason).toBe(
      'It can lose none until it is rebuilt. Replace None-1 only, with a drive of at least 8 TB.',
    );
    expect(needs[4]?.reason).toBe('Clicking. Have a fitting drive at hand.');
    expect(needs[5]?.title).toBe('Full · 83 % full');
  });

  it('asks for nothing while a rebuild is running, nor just below the line', () => {
    const waiting = unit(
      'Wait',
      failed('Wait-1'),
      { kind: 'drive-removed', serial: 'Wait-1' },
      { kind: 'drive-inserted', bay: '1', drive: { serial: 'New', bytes: 8e12, basis: 'exact' } },
      { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: 'Wait-1', onto: 'New' },
    );
    const cared = [waiting, { ...unit('Near'), used: { p: 16e12 * 0.799 } }];
    expect(
      needsHands(cared, DRAWERS, NOW).filter(({ urgency }) => urgency < 24 || (urgency > 29 && urgency < 31)),
    ).toEqual([]);
  });
});

describe('volumeAgainstPool', () => {
  it('says when a volume shown as 16 TB on a pool of 10.9 TiB is really full', () => {
    // 12 of 16: the pool is full at three quarters; four fifths of that is 60 %.
    expect(volumeAgainstPool(16e12, 12e12, true)).toMatchObject({
      fits: false,
      looksFullAt: 0.75,
      sentence: expect.stringContaining('looks 75 % full. Set its warning at 60 %.'),
    });
    expect(volumeAgainstPool(16e12, 12e12, false).sentence).toMatch(
      /^A thick volume of 14\.6 TiB does not fit: the pool holds 10\.9 TiB\.$/,
    );
    expect(volumeAgainstPool(8e12, 12e12, true)).toMatchObject({ fits: true, looksFullAt: 1 });
  });
});

describe('needs of a unit cared for too little', () => {
  const later = (days: number): string => new Date(Date.parse('2026-01-01T00:00:00.000Z') + days * 864e5).toISOString();
  const codes = (of: WatchedUnit, at = later(1), drawers = DRAWERS): string[] =>
    needsHands([of], drawers, at).map(({ code }) => code);
  const copy = { dataSet: 'd', copy: 'c' } as const;
  const cared: UnitEvent[] = [
    { kind: 'check-confirmed', check: 'factory-password-changed' },
    { kind: 'check-confirmed', check: 'alarm-mail-tested' },
    { kind: 'speed-measured', readBytesPerSecond: 100e6, writeBytesPerSecond: 90e6, isBaseline: true },
    { kind: 'data-set-described', dataSet: 'd', name: 'Accounts' },
    { kind: 'copy-described', ...copy, where: 'the bank', keeps: 'versions', offSite: true, everyDays: 7 },
    { kind: 'copy-confirmed', ...copy, outcome: 'ran' },
    { kind: 'copy-confirmed', ...copy, outcome: 'restore-worked' },
  ];

  it('asks for nothing of one that is cared for, until time passes', () => {
    const well = unit('Well', ...cared);
    expect(codes(well)).toEqual([]);
    expect(codes(well, later(13.9))).toEqual([]);
    expect(codes(well, later(14.1))).toEqual(['copy-old']);
    expect(codes(well, later(366))).toEqual(['copy-old', 'never-restored', 'firmware-old']);
    expect(codes(well, later(5 * 366))).toContain('drive-old');
  });

  it('asks for what was never done', () => {
    expect(codes(unit('New'))).toEqual(['no-copy', 'alarm-mail', 'no-baseline']);
  });

  it.each<[string, UnitEvent[], string[]]>([
    ['a failed copy', [{ kind: 'copy-confirmed', ...copy, outcome: 'failed' }], ['copy-failed']],
    [
      'a restore that did not work',
      [{ kind: 'copy-confirmed', ...copy, outcome: 'restore-failed' }],
      ['restore-failed'],
    ],
    [
      'mirrors only, on site',
      [{ kind: 'copy-described', ...copy, where: 'next room', keeps: 'mirror', offSite: false }],
      ['only-mirrors', 'none-off-site'],
    ],
    ['a pool nobody wrote down', [{ kind: 'data-set-removed', dataSet: 'd' }], ['no-copy']],
    ['speed lost', [{ kind: 'speed-measured', readBytesPerSecond: 60e6, writeBytesPerSecond: 90e6 }], ['slow']],
    ['a supply out', [{ kind: 'part-lost', part: 'supply', name: 'left' }], ['part-lost']],
    ['too few drives seen', [{ kind: 'drives-counted', seen: 3 }], ['drives-unseen']],
    ['a sign', [{ kind: 'sign-noted', note: 'beeping' }], ['sign-open']],
    [
      'upkeep due',
      [{ kind: 'upkeep-planned', tasks: [{ id: 'dust', title: 'Dust', every: 1, unit: 'year', from: '2026-01-01' }] }],
      ['upkeep-due'],
    ],
    ['an enclosure away', [{ kind: 'enclosure-lost', enclosure: 'Head' }], ['pool-stopped', 'enclosure-away']],
  ])('names %s', (_what, events, expected) => {
    expect(codes(unit('U', ...cared, ...events))).toEqual(expected);
  });

  it('names counts of errors that grow, as long as nobody has said anything of the drive', () => {
    const growing = [
      { serial: 'U-2', metric: 'reallocated-sectors', before: 2, beforeDay: '2025-12-20', now: 16 } as const,
    ];
    const [need] = needsHands([{ ...unit('U', ...cared), growing }], DRAWERS, later(1));
    expect([need?.title, need?.reason]).toEqual([
      'U · bay 2: reallocated sectors grow',
      expect.stringMatching(/^From 2 on 2025-12-20 to 16\./),
    ]);
    expect(
      codes({ ...unit('U', ...cared, { kind: 'drive-suspected', serial: 'U-2', note: 'defects' }), growing }),
    ).toEqual(['sign-growing']);
  });

  it('settles upkeep by doing it, and warns of a warranty only while it is ending', () => {
    const done = unit(
      'U',
      ...cared,
      { kind: 'upkeep-planned', tasks: [{ id: 'dust', title: 'Dust', every: 1, unit: 'year', from: '2026-01-01' }] },
      { kind: 'upkeep-done', task: 'dust' },
    );
    expect([codes(done), codes(done, later(365.5)).includes('upkeep-due')]).toEqual([[], true]);
    const ending = unit('U', ...cared, { kind: 'unit-described', details: { warrantyUntil: '2026-01-20' } });
    expect([codes(ending), codes(ending, later(30)).includes('warranty-ending')]).toEqual([['warranty-ending'], false]);
  });

  it('says when thin volumes promise more than there is, once it matters', () => {
    const thin: UnitEvent = { kind: 'volume-set', volume: 'v', pool: 'p', name: 'V', bytes: 30e12, thin: true };
    expect(codes({ ...unit('U', ...cared, thin), used: { p: 9e12 } })).toEqual(['thin-overcommitted']);
    expect(codes({ ...unit('U', ...cared, thin), used: { p: 1e12 } })).toEqual([]);
  });

  it('misses a spare that does not fit, or lies at another site, and says where the nearest is', () => {
    const needs = (drawers: DrawerDrive[]): string[] =>
      needsHands([unit('U', ...cared)], drawers, later(1)).map(({ reason }) => reason);
    const [fits] = DRAWERS as [DrawerDrive];
    expect(needs([{ ...fits, bytes: 8e12 - 512 }])[0]).toMatch(/^Bay 1, 2, 3, 4: .*No drawer anywhere does\.$/);
    expect(needs([{ ...fits, media: 'shingled' }])).toHaveLength(1);
    expect(needs([{ ...fits, media: 'ssd' }])).toHaveLength(1);
    expect(needs([{ ...fits, place: { site: 'T', room: 'R', drawer: 'top' } }])[0]).toContain(
      'The nearest, D1, lies at T.',
    );
    expect(needs([fits])).toEqual([]);
  });

  it('says of each bay what it needs itself, not what the largest needs', () => {
    const uneven = afterEvents(
      null,
      eventsOfUnit({ profile: saltern, scheme: 'mixed-1', sizes: [4e12, 8e12, 8e12], bays: 4 }),
      '2026-01-01T00:00:00.000Z',
    );
    const [reason = ''] = needsHands([{ id: 'u', state: uneven, used: {} }], [], later(1)).flatMap((one) =>
      one.code === 'no-spare' ? one.reason : [],
    );
    expect(reason).toMatch(
      /^Bay 2, 3: no drawer at S holds a drive of 8 TB .* Bay 1: no drawer at S holds a drive of 4 TB /,
    );
  });
});

describe('spareCoverage', () => {
  it('names the nearest that fits first, then the smallest, and says when a size is only a label’s', () => {
    const place = { site: 'S', room: 'R', drawer: 'top' };
    const drawers: DrawerDrive[] = [
      { serial: 'FAR', bytes: 8e12, basis: 'exact', place: { ...place, site: 'T' } },
      { serial: 'BIG', bytes: 12e12, basis: 'exact', place },
      { serial: 'FIT', bytes: 8e12, basis: 'label', place },
      { serial: 'SHORT', bytes: 8e12 - 1, basis: 'exact', place },
    ];
    const [bay] = spareCoverage([unit('U')], drawers);
    expect(bay).toMatchObject({ bay: '1', neededBytes: 8e12 });
    expect(bay?.spares.map(({ serial, reach, sizeUncertain }) => [serial, reach, sizeUncertain])).toEqual([
      ['FIT', 'same-room', true],
      ['BIG', 'same-room', false],
      ['FAR', 'other-site', false],
    ]);
    expect(spareCoverage([unit('U')], [])[0]?.spares).toEqual([]);
  });
});

describe('nextOccurrence', () => {
  // Reference: ical.js, a general iCalendar library (RFC 5545), walking the same rule.
  it('agrees with a general calendar library (property)', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2020-01-01'), max: new Date('2027-12-31'), noInvalidDate: true }),
        fc.integer({ min: 1, max: 14 }),
        fc.constantFrom('day', 'week', 'month', 'year'),
        fc.integer({ min: 0, max: 1500 }),
        (first, every, of, days) => {
          const from = first.toISOString().slice(0, 10);
          // The library takes it for 1 March of a common year; see below.
          fc.pre(!(of === 'year' && from.endsWith('-02-29')));
          const after = new Date(first.getTime() + days * 864e5).toISOString().slice(0, 10);
          const frequency = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' }[of];
          const walk = ICAL.Recur.fromString(`FREQ=${frequency};INTERVAL=${String(every)}`).iterator(
            ICAL.Time.fromDateString(from),
          );
          let expected: string | null = null;
          for (let i = 0; i < 3000; i++) {
            const next = walk.next()?.toString().slice(0, 10);
            if (next === undefined) break;
            if (next > after) {
              expected = next;
              break;
            }
          }
          if (expected !== null) expect(nextOccurrence({ from, every, unit: of }, after)).toBe(expected);
        },
      ),
      { numRuns: 300 },
    );
  });

  // Reference: RFC 5545, 3.3.10: a date that does not exist must be ignored.
  it('passes over years without a 29 February', () => {
    expect(nextOccurrence({ from: '2024-02-29', every: 1, unit: 'year' }, '2024-02-29')).toBe('2028-02-29');
  });

  it('comes once where it is to be done once, and never again when it is done, early or late', () => {
    const once = { from: '2026-05-10', every: 1, unit: 'once' } as const;
    expect(nextOccurrence(once)).toBe('2026-05-10');
    expect(nextOccurrence(once, '2026-05-02')).toBeNull();
    expect(nextOccurrence(once, '2026-06-01')).toBeNull();
  });

  it('is the first day itself before anything was done', () => {
    expect(nextOccurrence({ from: '2026-01-31', every: 1, unit: 'month' })).toBe('2026-01-31');
    expect(nextOccurrence({ from: '2026-01-31', every: 1, unit: 'month' }, '2026-01-31')).toBe('2026-03-31');
    expect(nextOccurrence({ from: '2028-02-29', every: 1, unit: 'year' }, '2028-02-29')).toBe('2032-02-29');
  });
});

describe('usualUpkeep', () => {
  it('fits the family: a stick is copied where the system lives on one', () => {
    const titles = (profile: unknown): string[] =>
      usualUpkeep(profile as Profile, '2026-01-31').tasks.map(({ id }) => id);
    expect(titles(tidemill)).toContain('flash-stick');
    expect(titles(plain)).not.toContain('flash-stick');
    expect(
      usualUpkeep(plain as Profile, '2026-01-31').tasks.every(
        ({ from }) => from > '2026-01-31' && Number(from.slice(8)) <= 28,
      ),
    ).toBe(true);
  });
});

describe('decodeLamp', () => {
  const lit = 'Lamp of a bay lit or blinking in a warning colour';
  const of = (bay: string | undefined, ...events: UnitEvent[]) => decodeLamp(unit('U', ...events).state, lit, NOW, bay);

  it('asks which bay a lamp belongs to, and answers for that one: expected, new, or worse than the record knows', () => {
    expect(of(undefined)).toMatchObject({ isOfBay: true, reads: 'unsaid' });
    expect(of('1')).toMatchObject({
      reads: 'new',
      now: expect.stringMatching(/U-1, is well by the record: take it as new\. If it is out, .* can lose/),
    });
    expect(of('1', failed('U-1'))).toMatchObject({ reads: 'expected' });
    // The other bay, while one is missing: a second fault, not "expected while it is being replaced".
    expect(of('2', failed('U-1'))).toMatchObject({
      reads: 'worse',
      now: expect.stringMatching(/^Not the one that is missing: that is U-1\. Bay 2, U-2/),
    });
    expect(of('2', { kind: 'drive-suspected', serial: 'U-2', note: 'clicks' })).toMatchObject({
      reads: 'worse',
      now: expect.stringContaining('(clicks)'),
    });
    // A tray that was emptied is the missing one.
    expect(of('1', { kind: 'drive-removed', serial: 'U-1' })).toMatchObject({ reads: 'expected' });
  });

  const beep = 'A beep that repeats';
  it('says what it means in the family, and whether the record explains it', () => {
    expect(decodeLamp(unit('U').state, beep, NOW)).toMatchObject({
      reads: 'new',
      now: expect.stringContaining('every member well: take it as new'),
    });
    expect(decodeLamp(unit('U', failed('U-1')).state, beep, NOW)).toMatchObject({
      reads: 'expected',
      now: 'Expected. Thinned, not broken: expected until the rebuild is done.',
    });
    expect(decodeLamp(unit('U').state, 'a smell of toast', NOW)).toBeNull();
    // The worst reading wins: with the pool lost nothing is only thinned.
    const lost = unit('U', failed('U-1'), failed('U-2'), failed('U-3')).state;
    for (const { see } of lost.profile.lamps)
      expect(decodeLamp(lost, see, NOW, '1')).toMatchObject({
        reads: 'worse',
        now: expect.stringMatching(/has stopped\. Pull nothing.*rescue desk/),
      });
  });
});

describe('a volume against its pool', () => {
  it('is said with as many digits as tell the two apart', () => {
    const pool = 14 * 2 ** 40;
    expect(volumeAgainstPool(pool + 2 ** 35, pool, false).sentence).toBe(
      'A thick volume of 14.03 TiB does not fit: the pool holds 14 TiB.',
    );
    expect(volumeAgainstPool(pool + 1, pool, false).sentence).toMatch(/ bytes does not fit: the pool holds .* bytes/);
  });
});
