import { describe, expect, it } from '@jest/globals';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import { apply } from '../../unit/apply';
import { unitIn } from '../../world/world';
import type { UnitState } from '../../unit/state';
import { hotSparePlan } from './hotSpare';
import { codeOf, must, NOW, poolOf, TB, tried, unitOf, worked } from './testPlans';

const drive = (size: number) => ({ bytes: size * TB, basis: 'exact' as const });

describe('a spare in the unit itself', () => {
  it.each([
    ['while it runs', reedbank],
    ['with the case open', tidemill],
  ])('is fitted, named and stands ready: %s', (_how, profile) => {
    const scheme = profile === tidemill ? 'dedicated-1' : 'parity-1';
    const unit = unitOf(profile, [8, 8, 8], scheme, 4);
    const end = unitIn(worked(unit, must(hotSparePlan(unit, { pool: 'p', drive: drive(8) }))), 'u') as UnitState;
    expect(poolOf(end).spares).toEqual(['NEW-4']);
    expect(end.power).toBe('on');
    expect(poolOf(end).bands).toEqual(poolOf(unit).bands);
  });

  it('stands in for the largest member or is refused, planned and in hand', () => {
    const mixed = unitOf(saltern, [4, 8, 8], 'mixed-1', 5);
    expect(codeOf(hotSparePlan(mixed, { pool: 'p', drive: drive(4) }))).toBe('drive-too-small');
    expect(codeOf(hotSparePlan(mixed, { pool: 'p', drive: { ...drive(8), media: 'ssd' } }))).toBe('unfitting');
    expect(codeOf(hotSparePlan(mixed, { pool: 'p', drive: { ...drive(8), media: 'shingled' } }))).toBe('unfitting');
    const run = worked(mixed, must(hotSparePlan(mixed, { pool: 'p', drive: drive(8) })), 'fit');
    const now = unitIn(run, 'u') as UnitState;
    // Planned with 8 TB; by the record of the drive that is read it has 4.
    const small = tried(run, now, 'fit', { kind: 'serial', serial: 'SMALL-1' }, () => ({
      kind: 'known-drive',
      serial: 'SMALL-1',
      facts: drive(4),
    }));
    expect(small).toBe('too-small');
    expect(tried(run, now, 'fit', { kind: 'serial', serial: 'D-1' })).not.toBe('done');
  });

  it('is refused where there is nothing to rebuild from, or no bay', () => {
    expect(codeOf(hotSparePlan(unitOf(reedbank, [4, 4], 'stripe', 4), { pool: 'p', drive: drive(4) }))).toBe(
      'unguarded',
    );
    const full = unitOf(reedbank, [4, 4, 4, 4], 'parity-1', 4);
    expect(codeOf(hotSparePlan(full, { pool: 'p', drive: drive(4) }))).toBe('no-free-bay');
    expect(codeOf(hotSparePlan(full, { pool: 'p', drive: drive(4), bay: '2' }))).toBe('bay-occupied');
    expect(codeOf(hotSparePlan(full, { pool: 'none', drive: drive(4) }))).toBe('pool-unknown');
    const thin = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    const failed = must(apply(thin, { kind: 'drive-failed', serial: 'D-2' }, NOW) as UnitState);
    expect(codeOf(hotSparePlan(failed, { pool: 'p', drive: drive(4) }))).toBe('thinned');
  });
});
