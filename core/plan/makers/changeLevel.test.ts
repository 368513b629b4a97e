import { describe, expect, it } from '@jest/globals';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import { apply } from '../../unit/apply';
import { marginOfPool } from '../../unit/margin';
import type { Pool, UnitState } from '../../unit/state';
import { isRefusal } from '../../value/refusal';
import { unitIn } from '../../world/world';
import { dryRun, type DryStep } from '../engine/dryRun';
import { changeLevelPlan, type ChangeLevelWish } from './changeLevel';
import { codeOf, must, NOW, poolOf, TB, tried, unitOf, worked } from './testPlans';

const drive = (size: number) => ({ bytes: size * TB, basis: 'exact' as const });
const to = (scheme: ChangeLevelWish['to'], size?: number): ChangeLevelWish => ({
  pool: 'p',
  to: scheme,
  ...(size === undefined ? {} : { drive: drive(size) }),
});

describe('changing the level of a pool', () => {
  it.each([
    ['a second drive to a single one', reedbank, [4], 'separate', 2, to('mirror', 4), 0, 1],
    ['a mirror to single parity', reedbank, [4, 4], 'mirror', 4, to('parity-1', 4), 1, 1],
    ['single to double parity', reedbank, [4, 4, 4, 4], 'parity-1', 5, to('parity-2', 4), 1, 2],
    ['a mixed pool that survives two', saltern, [4, 4, 8, 8], 'mixed-1', 6, to('mixed-2'), 1, 2],
    ['a second parity drive', tidemill, [8, 8, 4], 'dedicated-1', 4, to('dedicated-2', 8), 1, 2],
  ] as const)(
    '%s: worked to the end, it is what the dry run said; the new margin comes only when its page says done',
    (_name, profile, sizes, scheme, bays, wish, before, after) => {
      const unit = unitOf(profile, sizes, scheme, bays);
      const plan = must(changeLevelPlan(unit, wish));
      const steps = dryRun(unit, plan, NOW) as DryStep[];
      expect(steps.every((step) => step.kind === 'dry-step' && step.interlocks.length === 0)).toBe(true);
      const waiting = unitIn(worked(unit, plan, 'converted'), 'u') as UnitState;
      expect(poolOf(waiting).scheme).toBe(scheme);
      expect(marginOfPool(poolOf(waiting))).toBe(before);
      expect(Object.values(waiting.jobs)).toMatchObject([{ task: 'convert' }]);
      const end = unitIn(worked(unit, plan), 'u') as UnitState;
      expect(poolOf(end).scheme).toBe(wish.to);
      expect(marginOfPool(poolOf(end))).toBe(after);
      expect(end.jobs).toEqual({});
      expect(poolOf(end).usableBytes).toBe((steps.at(-1)?.after.pools['p'] as Pool).usableBytes);
    },
  );

  it('leaves every role where it is when a parity drive is added: of equal drives too', () => {
    const unit = unitOf(tidemill, [8, 8, 8], 'dedicated-1', 4);
    const [parity] = poolOf(unit).bands[0]?.members ?? [];
    const end = unitIn(worked(unit, must(changeLevelPlan(unit, to('dedicated-2', 8)))), 'u') as UnitState;
    expect(poolOf(end).bands[0]?.members.slice(0, 2)).toEqual([parity, 'NEW-4']);
  });

  it('is refused before anything is touched, with what is wrong and where', () => {
    const parity = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    const refused = (unit: UnitState, wish: ChangeLevelWish): readonly (string | undefined)[] => {
      const made = changeLevelPlan(unit, wish);
      return isRefusal(made) ? [made.code, made.pointer] : ['planned'];
    };
    expect(refused(parity, to('mirror', 4))).toEqual(['not-offered', '/to']);
    expect(refused(parity, to('parity-2'))).toEqual(['drive-needed', '/drive']);
    expect(refused(parity, { ...to('parity-2', 4), pool: 'none' })).toEqual(['pool-unknown', '/pool']);
    // Full: double parity of three drives and one more holds what three of single parity hold, and no drive more fits.
    const full = unitOf(reedbank, [4, 4, 4, 4], 'parity-1', 4);
    expect(refused(full, { ...to('parity-2', 4), usedShare: 0.9 })).toEqual(['no-room', '/to']);
    expect(refused(full, { ...to('parity-2'), usedShare: 0.5 })).toEqual(['planned']);
    expect(refused(unitOf(reedbank, [4, 4], 'mirror', 2), to('parity-1', 4))).toEqual(['layout-illegal', '/to']);
    expect(refused(unitOf(tidemill, [8, 8, 4], 'dedicated-1', 4), to('dedicated-2', 4))).toEqual([
      'parity-too-small',
      '/drive',
    ]);
    // A family that erases for it makes a new pool; that is said, not planned.
    expect(refused(unitOf(reedbank, [4, 4, 4], 'stripe', 4), to('parity-1'))).toEqual(['erases', '/to']);
    const failed = must(apply(parity, { kind: 'drive-failed', serial: 'D-2' }, NOW) as UnitState);
    expect(refused(failed, to('parity-2', 4))).toEqual(['thinned', '/pool']);
    const sick = must(apply(parity, { kind: 'drive-suspected', serial: 'D-2', note: 'clicks' }, NOW) as UnitState);
    expect(refused(sick, to('parity-2', 4))).toEqual(['rests-on-sick', '/pool']);
    expect(codeOf(changeLevelPlan(sick, { ...to('parity-2', 4), copyProven: true }))).toBe('planned');
  });

  it('ends a wait that is too early only by the unit’s own page, and not while a member is missing', () => {
    const unit = unitOf(reedbank, [4, 4, 4, 4], 'parity-1', 5);
    const waiting = worked(unit, must(changeLevelPlan(unit, to('parity-2', 4))), 'converted');
    const now = unitIn(waiting, 'u') as UnitState;
    expect(tried(waiting, now, 'converted', { kind: 'tick' })).toBe('too-early');
    const done = { kind: 'page', says: 'done', again: true } as const;
    expect(tried(waiting, now, 'converted', done)).toBe('done');
    const failed = must(apply(now, { kind: 'drive-failed', serial: 'D-1' }, NOW) as UnitState);
    expect(tried(waiting, failed, 'converted', done)).toBe('others-missing');
  });
});
