import { describe, expect, it } from '@jest/globals';
import causeway from '../../../platform/profiles/causeway.json';
import reedbank from '../../../platform/profiles/reedbank.json';
import saltern from '../../../platform/profiles/saltern.json';
import tidemill from '../../../platform/profiles/tidemill.json';
import { apply } from '../../../unit/apply';
import type { UnitState } from '../../../unit/state';
import { unitIn } from '../../../world/world';
import { codeOf, must, NOW, TB, unitOf, worked } from '../testPlans';
import { newPoolPlan, type NewPoolWish } from './newPool';

const drives = (bays: readonly string[], size = 8): NewPoolWish['drives'] =>
  bays.map((bay) => ({ bay, bytes: size * TB, basis: 'exact' as const }));
const wish = (bays: readonly string[], more: Partial<NewPoolWish> = {}): NewPoolWish => ({
  drives: drives(bays),
  pool: { name: 'Pictures', scheme: 'mirror' },
  ...more,
});
const newId = (): string => 'q';

describe('one more pool in a unit that is in use', () => {
  it.each([
    ['while it runs', saltern, 'mixed-1'],
    ['with the case open', tidemill, 'dedicated-1'],
  ] as const)('is made of what came in, and touches nothing that has a pool: %s', (_how, profile, scheme) => {
    const unit = unitOf(profile, [8, 8, 8], scheme, 6);
    const pool = { name: 'Pictures', scheme };
    const end = unitIn(worked(unit, must(newPoolPlan(unit, wish(['4', '5'], { pool }), newId))), 'u') as UnitState;
    expect(end.pools['p']).toEqual(unit.pools['p']);
    expect(end.pools['q']).toMatchObject({ name: 'Pictures', scheme });
    expect(new Set(end.pools['q']?.bands.flatMap(({ members }) => members))).toEqual(new Set(['NEW-4', 'NEW-5']));
    expect([end.power, Object.values(end.volumes).map((volume) => volume.pool)]).toEqual(['on', ['q']]);
    // Its copy is asked for by itself: the register does not take the other pool's for it.
    expect(Object.values(end.dataSets).map((set) => set.pool)).toEqual(['q']);
  });

  it('takes idle drives only where they are named', () => {
    const unit = unitOf(causeway, [8, 8, 8, 8], 'parity-1', 12);
    const idle = must(
      apply(
        unit,
        { kind: 'drive-inserted', bay: '9', drive: { serial: 'IDLE-9', bytes: 8 * TB, basis: 'exact' } },
        NOW,
      ) as UnitState,
    );
    const made = (more: Partial<NewPoolWish>): readonly string[] => {
      const end = unitIn(worked(idle, must(newPoolPlan(idle, wish(['5', '6'], more), newId))), 'u') as UnitState;
      return (end.pools['q']?.bands ?? []).flatMap(({ members }) => members).sort();
    };
    expect(made({})).toEqual(['NEW-5', 'NEW-6']);
    expect(made({ idle: ['9'] })).toEqual(['IDLE-9', 'NEW-5', 'NEW-6']);
    expect(codeOf(newPoolPlan(idle, wish(['5'], { idle: ['1'] }), newId))).toBe('not-idle');
    const dead = must(apply(idle, { kind: 'drive-failed', serial: 'IDLE-9' }, NOW) as UnitState);
    expect(codeOf(newPoolPlan(dead, wish(['5'], { idle: ['9'] }), newId))).toBe('not-idle');
  });

  it('is refused with what is wrong', () => {
    const unit = unitOf(causeway, [8, 8, 8, 8], 'parity-1', 12);
    const code = (of: NewPoolWish): string => codeOf(newPoolPlan(unit, of, newId));
    expect(code(wish([]))).toBe('nothing-added');
    expect(code(wish(['5', '6'], { pool: { name: ' papers ', scheme: 'mirror' } }))).toBe('name-taken');
    expect(code(wish(['4', '5']))).toBe('bay-occupied');
    expect(code(wish(['5']))).toBe('layout-illegal');
    expect(code(wish(['5', '6'], { fileSystem: 'none' }))).toBe('file-system-unknown');
    expect(code(wish(['5', '6'], { copyBytes: 9 * TB }))).toBe('does-not-fit');
    // A family with one volume for all has no place for the second.
    const one = unitOf(reedbank, [8, 8], 'mirror', 4);
    const volume = { kind: 'volume-set', volume: 'v', pool: 'p', name: 'V', bytes: TB, thin: false } as const;
    expect(codeOf(newPoolPlan(must(apply(one, volume, NOW) as UnitState), wish(['3', '4']), newId))).toBe('one-volume');
    // Where the first power-on decides, a unit in use is asked all the same.
    expect(codeOf(newPoolPlan(one, wish(['3', '4']), newId))).toBe('planned');
  });
});
