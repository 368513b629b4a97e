import plain from '../platform/profiles/plain.json' with { type: 'json' };
import reedbank from '../platform/profiles/reedbank.json' with { type: 'json' };
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import type { UnitEvent } from './event';
import { idleBays, poolChanged, type PoolChange } from './poolChanged';
import { preview } from './preview';
import { roleOf, roleWords } from './roleOf';
import type { UnitState } from './state';

const AT = '2026-01-01T00:00:00.000Z';

/** Drives D1… in bays 1…, of these TB. */
function unitOf(profile: unknown, ...sizes: number[]): UnitState {
  const bays = Array.from({ length: Math.max(8, sizes.length) }, (_, i) => String(i + 1));
  const events: UnitEvent[] = [
    {
      kind: 'unit-registered',
      name: 'Heron',
      place: { site: 'S', room: 'R' },
      profile: profile as Profile,
      enclosures: [{ name: 'Head', bays }],
    },
    ...sizes.map((size, i): UnitEvent => ({
      kind: 'drive-inserted',
      bay: String(i + 1),
      drive: { serial: `D${String(i + 1)}`, bytes: size * 1e12, basis: 'exact' },
    })),
  ];
  return events.reduce<UnitState | null>((unit, event) => done(apply(unit, event, AT)), null) as UnitState;
}
function done<T>(value: T): Exclude<T, { kind: 'refusal' }> {
  if (isRefusal(value)) throw new Error(`${value.code}: ${value.sentence}`);
  return value as Exclude<T, { kind: 'refusal' }>;
}
const changed = (unit: UnitState, change: PoolChange, used?: number): UnitState =>
  done(apply(unit, done(poolChanged(unit, change, 'new', used)), AT));
const hazards = (unit: UnitState, change: PoolChange) =>
  done(preview(unit, done(poolChanged(unit, change, 'new')), AT)).hazards.map(({ code, serials }) => [
    code,
    serials.join(' '),
  ]);
const MADE = { kind: 'made', name: 'Pool 1' } as const;

describe('what was done to the pools of a unit in use', () => {
  it('is a pool made of drives that stand idle, with its spares, and made anew once it was erased', () => {
    const unit = changed(unitOf(plain, 4, 4, 4, 4, 4), {
      ...MADE,
      scheme: 'parity-1',
      bays: ['1', '2', '3'],
      spares: ['5'],
    });
    expect(unit.pools['new']).toMatchObject({ usableBytes: 8e12, spares: ['D5'], scheme: 'parity-1' });
    expect(idleBays(unit)).toEqual(['4']);
    expect(hazards(unit, { kind: 'erased', pool: 'new' })).toEqual([['erases', 'D1 D2 D3']]);
    const again = changed(changed(unit, { kind: 'erased', pool: 'new' }), {
      ...MADE,
      scheme: 'mirror',
      bays: ['4', '5'],
    });
    expect(again.pools['new']).toMatchObject({ usableBytes: 4e12, bands: [{ members: ['D4', 'D5'] }] });
  });

  it('is a second drive beside a single one: a copy now, where the family keeps what is there', () => {
    const single = changed(unitOf(reedbank, 4, 4), { ...MADE, scheme: 'separate', bays: ['1'] });
    const mirror: PoolChange = { kind: 'became', pool: 'new', to: 'mirror', bays: ['2'] };
    expect(hazards(single, mirror)).toEqual([['erases', 'D2']]);
    expect(changed(single, mirror).pools['new']).toMatchObject({
      scheme: 'mirror',
      bands: [{ members: ['D1', 'D2'], redundancy: 1 }],
    });
    // The same by a family that keeps nothing over it.
    const conversions = (reedbank as unknown as Profile).growth.conversions.map((one) => ({
      ...one,
      keepsData: false,
    }));
    const other = { ...reedbank, growth: { ...reedbank.growth, conversions } };
    expect(hazards(changed(unitOf(other, 4, 4), { ...MADE, scheme: 'separate', bays: ['1'] }), mirror)).toEqual([
      ['erases', 'D2'],
      ['erases', 'D1'],
    ]);
  });

  it('is drives added, as the one rule for built pools has it', () => {
    const pool = changed(unitOf(saltern, 4, 4, 8, 8), { ...MADE, scheme: 'mixed-1', bays: ['1', '2', '3'] });
    const grown: PoolChange = { kind: 'added', pool: 'new', bays: ['4'] };
    expect(hazards(pool, grown)).toEqual([['erases', 'D4']]);
    // 4 + 4 + 8 and one more of 8, less what the family cuts off: nearly 8 TB more (the check of the built pool).
    const gained = (changed(pool, grown).pools['new']?.usableBytes ?? 0) - (pool.pools['new']?.usableBytes ?? 0);
    expect(gained).toBeGreaterThan(7.98e12);
    expect(gained).toBeLessThanOrEqual(8e12);
  });

  it.each<[string, PoolChange, number | undefined]>([
    ['bay-empty', { ...MADE, scheme: 'mirror', bays: ['1', '6'] }, undefined],
    ['bay-empty', { ...MADE, scheme: 'mirror', bays: ['1', '99'] }, undefined],
    ['drive-in-pool', { ...MADE, scheme: 'mirror', bays: ['1', '3'] }, undefined],
    ['drive-in-pool', { ...MADE, scheme: 'separate', bays: ['1'], spares: ['1'] }, undefined],
    ['drive-in-pool', { kind: 'added', pool: 'p', bays: ['3'] }, undefined],
    ['nothing-added', { kind: 'added', pool: 'p', bays: [] }, undefined],
    ['layout-illegal', { ...MADE, scheme: 'parity-1', bays: ['1', '2'] }, undefined],
    ['pool-unknown', { kind: 'erased', pool: 'nobody' }, undefined],
    ['pool-unknown', { kind: 'became', pool: 'constructor', to: 'mirror', bays: [] }, undefined],
    ['not-offered', { kind: 'became', pool: 'p', to: 'stripe', bays: [] }, undefined],
    ['no-room', { kind: 'became', pool: 'p', to: 'parity-1', bays: ['1'] }, 9e12],
  ])('refuses %s: %j', (code, change, used) => {
    const unit = done(
      apply(
        unitOf(reedbank, 4, 4, 4, 4),
        done(poolChanged(unitOf(reedbank, 4, 4, 4, 4), { ...MADE, scheme: 'mirror', bays: ['3', '4'] }, 'p')),
        AT,
      ),
    );
    expect(poolChanged(unit, change, 'new', used)).toMatchObject({ kind: 'refusal', code });
  });
});

describe('cache', () => {
  const unit = changed(unitOf(plain, 4, 4, 4, 1, 1), { ...MADE, scheme: 'parity-1', bays: ['1', '2', '3'] });
  const cached = done(apply(unit, { kind: 'cache-set', serials: ['D4'] }, AT));

  it('is in no other use', () => {
    expect([roleOf(cached, 'D4'), roleWords(cached, 'D4'), roleOf(cached, 'D5'), roleOf(cached, 'D1')]).toEqual([
      'cache',
      'cache of the unit',
      'idle',
      'member',
    ]);
    expect(idleBays(cached)).toEqual(['5']);
    expect(poolChanged(cached, { ...MADE, scheme: 'mirror', bays: ['4', '5'] }, 'q')).toMatchObject({
      code: 'drive-in-pool',
    });
    expect(apply(cached, { kind: 'spare-assigned', pool: 'new', serial: 'D4' }, AT)).toMatchObject({
      code: 'drive-in-pool',
      pointer: '/serial',
    });
    const failed = done(apply(cached, { kind: 'drive-failed', serial: 'D1' }, AT));
    const rebuild = {
      kind: 'job-started',
      job: 'j',
      task: 'rebuild',
      pool: 'new',
      replaces: 'D1',
      onto: 'D4',
    } as const;
    expect(apply(failed, rebuild, AT)).toMatchObject({ code: 'drive-in-pool', pointer: '/onto' });
  });

  it('is what stands, works and is in no pool; and what is only in it goes with it', () => {
    expect(apply(cached, { kind: 'cache-set', serials: ['D5', 'D1'] }, AT)).toMatchObject({
      code: 'drive-in-pool',
      pointer: '/serials/1',
    });
    expect(apply(cached, { kind: 'cache-set', serials: ['nobody'] }, AT)).toMatchObject({ code: 'drive-not-here' });
    expect(done(preview(cached, { kind: 'drive-removed', serial: 'D4' }, AT)).hazards).toMatchObject([
      { code: 'data-lost', serials: ['D4'] },
    ]);
    expect(done(apply(cached, { kind: 'drive-removed', serial: 'D4' }, AT)).cache).toEqual([]);
    expect(done(apply(cached, { kind: 'cache-set', serials: [] }, AT)).cache).toEqual([]);
  });
});
