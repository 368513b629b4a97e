import fc from 'fast-check';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import { canonicalJson } from '../value/canonicalJson';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import type { RecordedEvent, UnitEvent } from './event';
import { foldUnit } from './fold';
import { fullMarginOfPool, marginOfPool, marginOfUnit, standingOfUnit } from './margin';
import { poolCreated } from './poolCreated';
import { preview } from './preview';
import type { UnitState } from './state';
import { afterEvents } from './testUnit';

const at = (minute: number): string => new Date(Date.UTC(2026, 0, 1, 0, minute)).toISOString();
const registered: UnitEvent = {
  kind: 'unit-registered',
  name: 'Heron',
  place: { site: 'Packing house', room: 'Cupboard' },
  profile: plain as Profile,
  enclosures: [{ name: 'Head', bays: ['1', '2', '3', '4', '5'] }],
};
const serial = (bay: string): string => `S${bay}`;
const inserted = (bay: string, bytes: number): UnitEvent => ({
  kind: 'drive-inserted',
  bay,
  drive: { serial: serial(bay), bytes, basis: 'exact' },
});

function unitWith(scheme: Scheme, sizes: number[], spares = 0): UnitState {
  const drives = sizes.map((bytes, i) => ({ bay: String(i + 1), bytes }));
  const built = poolCreated(
    planLayout(plain as Profile, scheme, drives, spares),
    'pool-1',
    'Pool 1',
    new Map(drives.map(({ bay }) => [bay, serial(bay)])),
  );
  if (isRefusal(built)) throw new Error(built.sentence);
  return after(null, registered, ...drives.map(({ bay, bytes }) => inserted(bay, bytes)), built);
}

const after = (unit: UnitState | null, ...events: UnitEvent[]): UnitState => afterEvents(unit, events, at);

const pool = (unit: UnitState) => unit.pools['pool-1'] as NonNullable<UnitState['pools'][string]>;

describe('apply', () => {
  it('keeps the bands as built, members by serial', () => {
    const { bands, usableBytes } = pool(unitWith('mixed-1', [12, 12, 6, 6, 4]));
    expect(usableBytes).toBe(28);
    expect(bands[2]).toMatchObject({ kind: 'mirror', members: ['S1', 'S2'], fromBytes: 6, toBytes: 12 });
  });

  it.each<[string, UnitEvent]>([
    ['already-registered', registered],
    ['bay-occupied', { kind: 'drive-inserted', bay: '1', drive: { serial: 'X', bytes: 8, basis: 'exact' } }],
    ['bay-unknown', { kind: 'drive-inserted', bay: '9', drive: { serial: 'X', bytes: 8, basis: 'exact' } }],
    ['drive-elsewhere', { kind: 'drive-inserted', bay: '5', drive: { serial: 'S1', bytes: 8, basis: 'exact' } }],
    ['drive-not-here', { kind: 'drive-failed', serial: 'nobody' }],
    ['job-unknown', { kind: 'job-finished', job: 'none' }],
    ['pool-unknown', { kind: 'job-started', job: 'j', task: 'scrub', pool: 'none' }],
    [
      'nothing-to-rebuild',
      { kind: 'job-started', job: 'j', task: 'rebuild', pool: 'pool-1', replaces: 'S1', onto: 'S2' },
    ],
  ])('refuses %s', (code, event) => {
    expect(apply(unitWith('parity-1', [8, 8, 8, 8]), event, at(9))).toMatchObject({ kind: 'refusal', code });
  });

  it('refuses a pool of drives that are in one already, or a band higher than its drive', () => {
    const unit = unitWith('parity-1', [8, 8, 8]);
    const { bands, usableBytes, shownBytes, fileSystemReserveBytes } = pool(unit);
    const again: UnitEvent = {
      kind: 'pool-created',
      pool: 'p2',
      name: 'P2',
      scheme: 'parity-1',
      bands: bands as never,
      spares: [],
      usableBytes,
      shownBytes,
      fileSystemReserveBytes,
    };
    expect(apply(unit, again, at(9))).toMatchObject({ code: 'drive-in-pool' });
    const bare = after(null, registered, inserted('1', 8), inserted('2', 8), inserted('3', 7));
    expect(apply(bare, again, at(9))).toMatchObject({ code: 'band-too-high' });
  });

  it('takes no serial for something every object brings along', () => {
    const unit = unitWith('parity-1', [8, 8, 8]);
    for (const serial of ['constructor', 'toString', '__proto__', 'hasOwnProperty']) {
      expect(apply(unit, { kind: 'drive-failed', serial }, at(9))).toMatchObject({ code: 'drive-not-here' });
      const there = after(unit, { kind: 'drive-inserted', bay: '5', drive: { serial, bytes: 8, basis: 'exact' } });
      expect(marginOfUnit(after(there, { kind: 'drive-failed', serial }))).toBe(1);
    }
    expect(
      apply(unit, { kind: 'job-started', job: 'constructor', task: 'scrub', pool: 'constructor' }, at(9)),
    ).toMatchObject({ code: 'pool-unknown' });
  });

  it('refuses bands that do not add up', () => {
    const bare = after(null, registered, inserted('1', 8), inserted('2', 8), inserted('3', 8));
    const band = {
      kind: 'parity',
      fromBytes: 0,
      toBytes: 8,
      members: ['S1', 'S2', 'S3'],
      redundancy: 1,
      usableBytes: 16,
    } as const;
    const made = (change: object, usableBytes = 16): UnitEvent => ({
      kind: 'pool-created',
      pool: 'p',
      name: 'P',
      scheme: 'parity-1',
      bands: [{ ...band, ...change }] as never,
      spares: [],
      usableBytes,
      shownBytes: 16,
      fileSystemReserveBytes: 0,
    });
    expect(apply(bare, made({}), at(9))).toMatchObject({ kind: 'unit' });
    expect(apply(bare, made({}, 17), at(9))).toMatchObject({ code: 'bands-inconsistent', pointer: '/usableBytes' });
    expect(apply(bare, made({ usableBytes: 25 }, 25), at(9))).toMatchObject({ code: 'bands-inconsistent' });
    expect(apply(bare, made({ redundancy: 3 }), at(9))).toMatchObject({ code: 'bands-inconsistent' });
    expect(apply(bare, made({ members: ['S1', 'S1', 'S2'] }), at(9))).toMatchObject({ code: 'bands-inconsistent' });
  });

  it('freezes what it hands out and leaves what it was given alone', () => {
    const unit = unitWith('mirror', [8, 8]);
    const before = canonicalJson(unit);
    const next = after(unit, { kind: 'drive-failed', serial: 'S1' });
    expect(Object.isFrozen(next.pools['pool-1']?.bands[0]?.members)).toBe(true);
    expect(canonicalJson(unit)).toBe(before);
  });
});

describe('margin', () => {
  it('falls when a member fails and comes back only when the rebuild has finished', () => {
    let unit = unitWith('parity-2', [8, 8, 8, 8]);
    expect([marginOfUnit(unit), standingOfUnit(unit)]).toEqual([2, 'well']);
    unit = after(unit, { kind: 'drive-suspected', serial: 'S2', note: 'clicking' });
    expect([marginOfUnit(unit), standingOfUnit(unit)]).toEqual([2, 'watch']);
    unit = after(unit, { kind: 'drive-failed', serial: 'S2' });
    expect([marginOfUnit(unit), standingOfUnit(unit)]).toEqual([1, 'thinned']);
    unit = after(
      unit,
      { kind: 'drive-removed', serial: 'S2' },
      { kind: 'drive-inserted', bay: '2', drive: { serial: 'N2', bytes: 8, basis: 'exact' } },
    );
    expect(marginOfUnit(unit)).toBe(1);
    unit = after(
      unit,
      { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'pool-1', replaces: 'S2', onto: 'N2' },
      { kind: 'job-progressed', job: 'r', percent: 99 },
    );
    expect(marginOfUnit(unit)).toBe(1);
    unit = after(unit, { kind: 'job-finished', job: 'r' });
    expect([marginOfUnit(unit), standingOfUnit(unit)]).toEqual([2, 'well']);
    expect([pool(unit).bands[0]?.members, pool(unit).missing]).toEqual([['S1', 'N2', 'S3', 'S4'], []]);
  });

  it('is lost for good below 0: all of a striped pool, named drives of separate ones', () => {
    const parity = after(
      unitWith('parity-1', [8, 8, 8]),
      { kind: 'drive-failed', serial: 'S1' },
      { kind: 'drive-removed', serial: 'S2' },
    );
    expect([marginOfUnit(parity), standingOfUnit(parity), pool(parity).lost]).toEqual([
      -1,
      'stopped',
      ['S1', 'S2', 'S3'],
    ]);
    const back = after(parity, { kind: 'drive-inserted', bay: '2', drive: { serial: 'S2', bytes: 8, basis: 'exact' } });
    expect(standingOfUnit(back)).toBe('stopped');

    const separate = after(unitWith('separate', [8, 8, 8]), { kind: 'drive-failed', serial: 'S2' });
    expect(pool(separate).lost).toEqual(['S2']);
    const dedicated = after(
      unitWith('dedicated-1', [12, 8, 4]),
      { kind: 'drive-failed', serial: 'S3' },
      { kind: 'drive-failed', serial: 'S2' },
    );
    expect(pool(dedicated).lost).toEqual(['S2', 'S3']);
    // The parity drive, S1, holds no files that could be lost.
    const withParity = after(
      unitWith('dedicated-1', [12, 8, 4]),
      { kind: 'drive-failed', serial: 'S1' },
      { kind: 'drive-failed', serial: 'S2' },
    );
    expect(pool(withParity).lost).toEqual(['S2']);
  });

  it('says unguarded for a layout without protection, and nothing for a unit without a pool', () => {
    expect(standingOfUnit(unitWith('stripe', [8, 8]))).toBe('unguarded');
    expect([marginOfUnit(after(null, registered)), standingOfUnit(after(null, registered))]).toEqual([null, 'empty']);
  });

  it('equals full margin minus members missing while they share the lowest band (property)', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<Scheme>('parity-1', 'parity-2', 'mixed-1', 'mixed-2', 'mirror'),
        fc.uniqueArray(fc.integer({ min: 1, max: 5 }), { maxLength: 5 }),
        (scheme, failing) => {
          const unit = after(
            unitWith(scheme, [9, 8, 7, 7, 5]),
            ...failing.map((bay): UnitEvent => ({ kind: 'drive-failed', serial: serial(String(bay)) })),
          );
          const full = fullMarginOfPool(pool(unit));
          expect(marginOfPool(pool(unit))).toBe(full - failing.length);
        },
      ),
    );
  });
});

describe('preview', () => {
  it('says before what would be lost, with the serials, and changes nothing', () => {
    const unit = unitWith('parity-1', [8, 8, 8]);
    expect(preview(unit, { kind: 'drive-removed', serial: 'S3' }, at(9))).toMatchObject({
      marginBefore: { 'pool-1': 1 },
      marginAfter: { 'pool-1': 0 },
      hazards: [{ code: 'margin-lowered', serials: ['S3'], sentence: 'Without S3 Pool 1 can lose none more.' }],
    });
    const thinned = after(unit, { kind: 'drive-failed', serial: 'S1' });
    expect(preview(thinned, { kind: 'drive-removed', serial: 'S3' }, at(9))).toMatchObject({
      hazards: [{ code: 'data-lost', serials: ['S3'] }],
    });
    expect(marginOfUnit(thinned)).toBe(0);
  });

  it('says that creating a pool erases', () => {
    const bare = after(null, registered, inserted('1', 8), inserted('2', 8));
    const layout = planLayout(plain as Profile, 'stripe', [
      { bay: '1', bytes: 8 },
      { bay: '2', bytes: 8 },
    ]);
    const event = poolCreated(
      layout,
      'p',
      'P',
      new Map([
        ['1', 'S1'],
        ['2', 'S2'],
      ]),
    ) as UnitEvent;
    expect(preview(bare, event, at(9))).toMatchObject({
      hazards: [{ code: 'erases', serials: ['S1', 'S2'] }, { code: 'unguarded' }],
    });
  });
});

describe('poolCreated', () => {
  const layout = planLayout(plain as Profile, 'mirror', [
    { bay: '1', bytes: 8 },
    { bay: '2', bytes: 8 },
  ]);
  it('names the bay whose serial was not read', () => {
    expect(poolCreated(layout, 'p', 'P', new Map([['1', 'S1']]))).toMatchObject({
      code: 'serial-missing',
      sentence: expect.stringContaining('Bay 2 has no serial'),
    });
  });
  it('does not build an illegal layout', () => {
    expect(poolCreated(planLayout(plain as Profile, 'parity-1', []), 'p', 'P', new Map())).toMatchObject({
      code: 'layout-illegal',
    });
  });
});

describe('foldUnit', () => {
  const history: RecordedEvent[] = [
    registered,
    inserted('1', 8),
    inserted('2', 8),
    inserted('3', 8),
    poolCreated(
      planLayout(
        plain as Profile,
        'parity-1',
        ['1', '2', '3'].map((bay) => ({ bay, bytes: 8 })),
      ),
      'pool-1',
      'Pool 1',
      new Map(['1', '2', '3'].map((bay) => [bay, serial(bay)])),
    ) as UnitEvent,
    { kind: 'drive-failed', serial: 'S3' } as UnitEvent,
    { kind: 'drive-removed', serial: 'S3' } as UnitEvent,
  ].map((event, i) => ({ seq: i + 1, happenedAt: at(i), event }));

  it('goes by when it happened, whatever order the ledger holds', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(history, { minLength: history.length }), (shuffled) => {
        expect(canonicalJson(foldUnit(shuffled))).toBe(canonicalJson(foldUnit(history)));
      }),
    );
  });

  it('gives back the first refusal', () => {
    expect(foldUnit(history.slice(1))).toMatchObject({ code: 'not-registered' });
    expect(foldUnit([])).toMatchObject({ code: 'not-registered' });
  });
});
