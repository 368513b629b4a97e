import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { isRefusal, type Refusal } from '../value/refusal';
import { apply } from './apply';
import type { Of, UnitEvent } from './event';
import { grownByExpand } from './grownByExpand';
import { marginOfUnit, standingOfUnit } from './margin';
import { neededBytes } from './neededBytes';
import { poolCreated } from './poolCreated';
import { preview } from './preview';
import { standingWords } from './standingWords';
import type { Pool, UnitState } from './state';

const NOW = '2026-01-01T00:00:00.000Z';
const TB = 1e12;
const bay = (n: number): string => String(n);

function after(unit: UnitState | null, ...events: UnitEvent[]): UnitState {
  return events.reduce<UnitState | null>((state, event) => {
    const next = apply(state, event, NOW);
    if (isRefusal(next)) throw new Error(`${event.kind}: ${next.sentence}`);
    return next;
  }, unit) as UnitState;
}
const refused = (unit: UnitState, event: UnitEvent): string => (apply(unit, event, NOW) as Refusal).code;
const inserted = (n: number, terabytes: number, serial = `D-${String(n)}`): UnitEvent => ({
  kind: 'drive-inserted',
  bay: bay(n),
  drive: { serial, bytes: terabytes * TB, basis: 'exact' },
});

/** A unit of eight bays in two boxes with drives of these sizes from bay 1 on. */
function bare(sizes: readonly number[], profile: unknown = plain): UnitState {
  const enclosures = [
    { name: 'Head', bays: [1, 2, 3, 4].map(bay) },
    { name: 'Extension 1', bays: [5, 6, 7, 8].map(bay) },
  ];
  const registered: UnitEvent = {
    kind: 'unit-registered',
    name: 'U',
    place: { site: 'S', room: 'R' },
    profile: profile as Profile,
    enclosures,
  };
  return after(null, registered, ...sizes.map((size, i) => inserted(i + 1, size)));
}
function made(unit: UnitState, scheme: Scheme, count: number): Of<'pool-created'> {
  const drives = Array.from({ length: count }, (_, i) => ({
    bay: bay(i + 1),
    bytes: unit.drives[`D-${String(i + 1)}`]?.bytes ?? 0,
  }));
  const event = poolCreated(
    planLayout(unit.profile, scheme, drives),
    'p',
    'Pool',
    new Map(drives.map((drive) => [drive.bay, `D-${drive.bay}`])),
  );
  if (isRefusal(event)) throw new Error(event.sentence);
  return event;
}
const withPool = (sizes: readonly number[], scheme: Scheme, profile?: unknown): UnitState => {
  const unit = bare(sizes, profile);
  return after(unit, made(unit, scheme, sizes.length));
};
const swap = (n: number, terabytes: number): UnitEvent[] => [
  { kind: 'drive-removed', serial: `D-${String(n)}` },
  inserted(n, terabytes, `N-${String(n)}`),
  { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: `D-${String(n)}`, onto: `N-${String(n)}` },
  { kind: 'job-finished', job: 'r' },
];

describe('what cannot be is refused', () => {
  it('a pool with a member that has failed, or is out of service', () => {
    const unit = bare([8, 8, 8]);
    for (const event of [
      { kind: 'drive-failed', serial: 'D-2' },
      { kind: 'drive-taken-out-of-service', serial: 'D-2' },
    ] as const)
      expect(refused(after(unit, event), made(unit, 'parity-1', 3))).toBe('not-working');
  });

  it('bands whose redundancy or bytes are not the scheme’s, and more shown than there is', () => {
    const unit = bare([8, 8, 8]);
    const right = made(unit, 'parity-1', 3);
    const [band] = right.bands as [(typeof right.bands)[number]];
    expect(
      refused(unit, { ...right, bands: [{ ...band, redundancy: 2, usableBytes: 8 * TB }], usableBytes: 8 * TB }),
    ).toBe('bands-inconsistent');
    expect(refused(unit, { ...right, bands: [{ ...band, usableBytes: 24 * TB }], usableBytes: 24 * TB })).toBe(
      'bands-inconsistent',
    );
    expect(refused(unit, { ...right, scheme: 'mirror' })).toBe('bands-inconsistent');
    expect(refused(unit, { ...right, shownBytes: right.usableBytes + 1 })).toBe('shown-too-large');
    expect(refused(unit, { ...right, spares: ['D-1'] })).toBe('drive-in-pool');
  });

  it('a pool that grows by losing a missing member, by pairing anew, or by a drive that is dead', () => {
    const unit = after(withPool([8, 8, 8], 'parity-1'), inserted(4, 8), { kind: 'drive-failed', serial: 'D-2' });
    const { bands, usableBytes, shownBytes, fileSystemReserveBytes } = unit.pools['p'] as Pool;
    const [band] = bands as [(typeof bands)[number]];
    const grown = (members: string[]): UnitEvent => {
      const usable = (members.length - 1) * 8 * TB;
      return {
        kind: 'pool-grown',
        pool: 'p',
        bands: [{ ...band, members, usableBytes: usable }],
        usableBytes: usable,
        shownBytes: usable,
        fileSystemReserveBytes: 0,
      };
    };
    expect(refused(unit, grown(['D-1', 'D-4', 'D-3']))).toBe('member-left-out');
    expect(refused(after(unit, { kind: 'drive-failed', serial: 'D-4' }), grown(['D-1', 'D-2', 'D-3', 'D-4']))).toBe(
      'not-working',
    );
    expect(after(unit, grown(['D-1', 'D-2', 'D-3', 'D-4'])).pools['p']?.missing).toEqual(['D-2']);
    const conversion: UnitEvent = {
      kind: 'pool-converted',
      pool: 'p',
      scheme: 'parity-2',
      bands: [{ ...band, members: ['D-1', 'D-2', 'D-3', 'D-4'], redundancy: 2, usableBytes: 16 * TB }],
      usableBytes,
      shownBytes,
      fileSystemReserveBytes,
    };
    expect(refused(unit, conversion)).toBe('others-missing');
  });

  it('a failed drive as spare or taking over, a spare for nothing, a rebuild where nothing reaches', () => {
    const unit = after(withPool([8, 8, 8], 'parity-1'), inserted(4, 8), inserted(5, 8));
    const failed = after(unit, { kind: 'drive-failed', serial: 'D-4' });
    expect(refused(failed, { kind: 'spare-assigned', pool: 'p', serial: 'D-4' })).toBe('not-working');
    const spare = after(
      unit,
      { kind: 'spare-assigned', pool: 'p', serial: 'D-4' },
      { kind: 'drive-failed', serial: 'D-2' },
    );
    const over: UnitEvent = { kind: 'spare-took-over', pool: 'p', spare: 'D-4', replaces: 'D-2', job: 'r' };
    expect(refused(after(spare, { kind: 'drive-failed', serial: 'D-4' }), over)).toBe('not-working');
    expect(after(spare, over).jobs['r']?.onto).toBe('D-4');
    const onto: UnitEvent = { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: 'D-2', onto: 'D-5' };
    expect(refused(after(spare, { kind: 'enclosure-lost', enclosure: 'Extension 1' }), onto)).toBe('enclosure-away');
    expect(refused(after(spare, { kind: 'power', on: false }), onto)).toBe('switched-off');
    expect(after(spare, onto).jobs['r']?.onto).toBe('D-5');
    const stripe = after(withPool([8, 8], 'stripe'), inserted(4, 8));
    expect(refused(stripe, { kind: 'spare-assigned', pool: 'p', serial: 'D-4' })).toBe('nothing-to-rebuild');
  });
});

describe('a built pool in a unit', () => {
  it.each([plain, reedbank])(
    'keeps its pairs through an expand: with one of a pair out, pulling the other loses data ($id)',
    (profile) => {
      let unit = withPool([4, 4, 4, 4], 'striped-mirrors', profile);
      unit = after(unit, ...swap(1, 8), ...swap(3, 8));
      expect(grownByExpand(unit, unit.pools['p'] as Pool)).toBeNull();
      const out = after(unit, { kind: 'drive-removed', serial: 'N-1' });
      const pull = preview(out, { kind: 'drive-removed', serial: 'D-2' }, NOW);
      expect(isRefusal(pull) ? pull : pull.hazards).toMatchObject([{ code: 'data-lost', serials: ['D-2'] }]);
      // Growing that pairs anew would hide it.
      const { bands, usableBytes, shownBytes, fileSystemReserveBytes } = unit.pools['p'] as Pool;
      const anew = bands.map((band, i) => ({ ...band, members: i === 0 ? ['N-1', 'N-3'] : ['D-2', 'D-4'] }));
      expect(
        refused(unit, { kind: 'pool-grown', pool: 'p', bands: anew, usableBytes, shownBytes, fileSystemReserveBytes }),
      ).toBe('bands-cut-anew');
    },
  );

  it('asks of a replacement what it uses of the member, everywhere', () => {
    const unit = after(withPool([4, 4, 12], 'parity-1'), inserted(4, 4));
    expect(neededBytes(unit, 'D-3')).toBe(4 * TB);
    const taken = after(
      unit,
      { kind: 'spare-assigned', pool: 'p', serial: 'D-4' },
      { kind: 'drive-failed', serial: 'D-3' },
      { kind: 'spare-took-over', pool: 'p', spare: 'D-4', replaces: 'D-3', job: 'r' },
      { kind: 'job-finished', job: 'r' },
    );
    expect(marginOfUnit(taken)).toBe(1);
    expect(neededBytes(after(unit, { kind: 'spare-assigned', pool: 'p', serial: 'D-4' }), 'D-4')).toBe(4 * TB);
  });

  it('takes the spare its layout chose, on every profile that has spares', () => {
    for (const profile of [plain, reedbank, causeway]) {
      const sizes = [12, 12, 8, 8];
      const unit = bare(sizes, profile);
      const layout = planLayout(
        profile as unknown as Profile,
        'mirror',
        sizes.map((size, i) => ({ bay: bay(i + 1), bytes: size * TB })),
        1,
      );
      const pool = poolCreated(
        layout,
        'p',
        'Pool',
        new Map(sizes.map((_, i) => [bay(i + 1), `D-${String(i + 1)}`])),
      ) as Of<'pool-created'>;
      const [spare] = pool.spares as [string];
      for (const member of pool.bands[0]?.members ?? []) {
        const failed = after(unit, pool, { kind: 'drive-failed', serial: member });
        expect(
          isRefusal(apply(failed, { kind: 'spare-took-over', pool: 'p', spare, replaces: member, job: 'r' }, NOW)),
        ).toBe(false);
      }
    }
  });
});

describe('until its first build is done', () => {
  const building = (profile: unknown, scheme: Scheme = 'parity-1'): UnitState =>
    after(withPool([8, 8, 8], scheme, profile), { kind: 'job-started', job: 'b', task: 'first-build', pool: 'p' });

  it('a pool can lose none, where the family does not protect it before; and says so in one voice', () => {
    const unit = building(reedbank);
    expect([marginOfUnit(unit), standingOfUnit(unit), standingWords(unit, standingOfUnit(unit))]).toEqual([
      0,
      'thinned',
      'can lose none until its first build is done',
    ]);
    expect(marginOfUnit(after(unit, { kind: 'drive-failed', serial: 'D-1' }))).toBe(-1);
    const done = after(unit, { kind: 'job-finished', job: 'b' });
    expect([marginOfUnit(done), standingWords(done, standingOfUnit(done))]).toEqual([1, 'can lose 1 more']);
  });

  it('is no matter where the family protects it from the start, nor where there is no protection at all', () => {
    expect(marginOfUnit(building(causeway))).toBe(1);
    const stripe = building(plain, 'stripe');
    expect(standingWords(stripe, standingOfUnit(stripe))).toBe('can lose none, by choice');
  });
});
