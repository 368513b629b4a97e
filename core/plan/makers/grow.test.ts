import causeway from '../../platform/profiles/causeway.json';
import plain from '../../platform/profiles/plain.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import tidemill from '../../platform/profiles/tidemill.json';
import { apply } from '../../unit/apply';
import { marginOfPool } from '../../unit/margin';
import type { Pool, UnitState } from '../../unit/state';
import { planIn, unitIn } from '../../world/world';
import { dryRun, type DryStep } from '../engine/dryRun';
import { growPlan, type GrowWish } from './grow';
import { codeOf, must, NOW, TB, tried, unitOf, worked } from './testPlans';

const wish = (size: number, more: Partial<GrowWish> = {}): GrowWish => ({
  pool: 'p',
  drive: { bytes: size * TB, basis: 'exact' },
  ...more,
});

describe('adding drives to a pool', () => {
  it.each([
    ['one in a mixed pool', saltern, [4, 4, 8], 'mixed-1', 8, 5, undefined],
    ['one in single parity', reedbank, [4, 4, 4], 'parity-1', 4, 4, undefined],
    ['one beside dedicated parity', tidemill, [8, 4, 4], 'dedicated-1', 6, 6, undefined],
    ['a pair of mirrors', plain, [4, 4, 4, 4], 'striped-mirrors', 8, 8, undefined],
    ['a whole group', causeway, Array.from({ length: 12 }, () => 4), 'parity-2-groups', 4, 24, 6],
  ] as const)(
    '%s: worked to the end, it is what the dry run said, and never thinner',
    (_name, profile, sizes, scheme, size, bays, width) => {
      const unit = unitOf(profile, sizes, scheme, bays, width);
      const plan = must(growPlan(unit, wish(size)));
      const steps = dryRun(unit, plan, NOW) as DryStep[];
      expect(steps.every((step) => step.kind === 'dry-step')).toBe(true);
      const before = marginOfPool(unit.pools['p'] as Pool);
      for (const { after } of steps) expect(marginOfPool(after.pools['p'] as Pool)).toBeGreaterThanOrEqual(before);
      const end = unitIn(worked(unit, plan), 'u') as UnitState;
      const [grown, said] = [end.pools['p'] as Pool, steps.at(-1)?.after.pools['p'] as Pool];
      expect(grown.usableBytes).toBe(said.usableBytes);
      expect(grown.usableBytes).toBeGreaterThan((unit.pools['p'] as Pool).usableBytes);
      // Until its page says that it is done, no space is counted.
      const waiting = unitIn(worked(unit, plan, 'taken-in'), 'u') as UnitState;
      expect((waiting.pools['p'] as Pool).usableBytes).toBe((unit.pools['p'] as Pool).usableBytes);
      expect(planIn(worked(unit, plan), 'r')?.done).toBeDefined();
    },
  );

  it('makes a mirror of a pool that began with one drive: safety, no space, and it says how long the copy takes', () => {
    const unit = unitOf(saltern, [4], 'mixed-1', 4);
    expect(marginOfPool(unit.pools['p'] as Pool)).toBe(0);
    const plan = must(growPlan(unit, wish(4)));
    // 4 TB at the family's ceiling, 210 MB/s, and at what used space is copied with on an old unit, 42 MB/s (common practice).
    const hours = plan.steps.find(({ id }) => id === 'taken-in')?.hours ?? 0;
    expect(hours).toBeGreaterThan(4e12 / 210e6 / 3600);
    expect(hours).toBeLessThan(4e12 / 42e6 / 3600);
    const end = (unitIn(worked(unit, plan), 'u') as UnitState).pools['p'] as Pool;
    expect([marginOfPool(end), end.bands.map(({ kind }) => kind), end.usableBytes]).toEqual([
      1,
      ['mirror'],
      (unit.pools['p'] as Pool).usableBytes,
    ]);
    expect(codeOf(growPlan(unit, wish(2)))).toBe('too-small');
  });

  it('enlarges a volume of fixed size by what the pool has won, and leaves one that is shown larger alone', () => {
    const volume = (profile: object, thin: boolean): UnitState => {
      const unit = unitOf(profile, [4, 4, 4], profile === saltern ? 'mixed-1' : 'parity-1', 5);
      const { shownBytes } = unit.pools['p'] as Pool;
      const set = { kind: 'volume-set', volume: 'v', pool: 'p', name: 'Office', bytes: shownBytes, thin } as const;
      return must(apply(unit, set, NOW) as UnitState);
    };
    const thick = volume(reedbank, false);
    const plan = must(growPlan(thick, wish(4)));
    expect(plan.steps.map(({ id }) => id)).toEqual(expect.arrayContaining(['volume-1', 'warning-line']));
    const end = unitIn(worked(thick, plan), 'u') as UnitState;
    expect(end.volumes['v']?.bytes).toBe((end.pools['p'] as Pool).shownBytes);
    expect(must(growPlan(volume(saltern, true), wish(4))).steps.map(({ id }) => id)).not.toContain('volume-1');
  });

  it('is refused before anything is touched, with what is wrong', () => {
    const groups = unitOf(
      causeway,
      Array.from({ length: 12 }, () => 4),
      'parity-2-groups',
      24,
      6,
    );
    // A single drive beside groups.
    expect(codeOf(growPlan(groups, wish(4, { bays: ['13'] })))).toBe('adds-groups');
    const single = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    expect(codeOf(growPlan(single, wish(2)))).toBe('too-small');
    expect(codeOf(growPlan(single, wish(4, { bays: ['2'] })))).toBe('bay-occupied');
    expect(codeOf(growPlan(single, wish(4, { bays: ['9'] })))).toBe('bay-occupied');
    expect(codeOf(growPlan(single, wish(4, { pool: 'none' })))).toBe('pool-unknown');
    expect(codeOf(growPlan(unitOf(reedbank, [4, 4, 4], 'parity-1', 3), wish(4)))).toBe('no-free-bay');
    const failed = must(apply(single, { kind: 'drive-failed', serial: 'D-2' }, NOW) as UnitState);
    expect(codeOf(growPlan(failed, wish(4)))).toBe('thinned');
  });

  it('counts nothing in while a member is missing, nor a drive that turned out smaller', () => {
    const unit = unitOf(reedbank, [4, 4, 4], 'parity-1', 4);
    const plan = must(growPlan(unit, wish(4)));
    const waiting = worked(unit, plan, 'taken-in');
    const now = unitIn(waiting, 'u') as UnitState;
    const tick = (state: UnitState): string => tried(waiting, state, 'taken-in', { kind: 'tick' });
    expect(tick(now)).toBe('done');
    expect(tick(must(apply(now, { kind: 'drive-failed', serial: 'D-1' }, NOW) as UnitState))).not.toBe('done');
    const fitted = now.drives['NEW-4'];
    if (!fitted) throw new Error('not fitted');
    expect(tick({ ...now, drives: { ...now.drives, 'NEW-4': { ...fitted, bytes: 2 * TB } } })).not.toBe('done');
  });
});
