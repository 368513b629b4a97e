import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import plain from '../../platform/profiles/plain.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import type { UnitEvent } from '../../unit/event';
import type { UnitState } from '../../unit/state';
import { afterEvents } from '../../unit/testUnit';
import { unitIn } from '../../world/world';
import { isRefusal } from '../../value/refusal';
import { changeLevelPlan, type ChangeLevelWish } from './changeLevel';
import { growPlan, type GrowWish } from './grow';
import { levelsOf, plansThatFit } from './plansThatFit';
import { codeOf, must, NOW, TB, unitOf, worked } from './testPlans';

const idle = (unit: UnitState, bays: readonly string[], size = 8, ...more: UnitEvent[]): UnitState =>
  afterEvents(
    unit,
    [
      ...bays.map((bay): UnitEvent => ({
        kind: 'drive-inserted',
        bay,
        drive: { serial: `IDLE-${bay}`, bytes: size * TB, basis: 'exact' },
      })),
      ...more,
    ],
    NOW,
  );
const membersAfter = (unit: UnitState, plan: Parameters<typeof worked>[1]): string[] =>
  [
    ...new Set((unitIn(worked(unit, plan), 'u') as UnitState).pools['p']?.bands.flatMap(({ members }) => members)),
  ].sort();
const kindsOf = ({ steps }: Parameters<typeof worked>[1]): string[] =>
  steps.flatMap(({ does }) => does.map(({ kind }) => kind));

describe('drives that stand idle are stock', () => {
  it('grow a pool without anything being bought or fitted', () => {
    const unit = idle(unitOf(saltern, [8, 8, 8], 'mixed-1', 6), ['4', '5']);
    const wish: GrowWish = { pool: 'p', idle: ['4', '5'] };
    const plan = must(growPlan(unit, wish));
    expect(kindsOf(plan)).not.toEqual(expect.arrayContaining(['fit-drive']));
    expect(plan.steps.map(({ id }) => id)).toContain('idle-seen');
    expect(plan.steps.find(({ id }) => id === 'choose')?.why).toContain('bay 4 (IDLE-4), bay 5 (IDLE-5)');
    expect(membersAfter(unit, plan)).toEqual(['D-1', 'D-2', 'D-3', 'IDLE-4', 'IDLE-5']);
    // Beside a new one, which is laid out and fitted.
    const both = must(
      growPlan(unit, { pool: 'p', idle: ['4'], bays: ['6'], drive: { bytes: 8 * TB, basis: 'exact' } }),
    );
    expect(membersAfter(unit, both)).toEqual(['D-1', 'D-2', 'D-3', 'IDLE-4', 'NEW-6']);
  });

  it('fill up a group, and what is lacking is asked for, with the idle ones named', () => {
    const built = unitOf(causeway, [8, 8, 8, 8, 8, 8], 'parity-1-groups', 16, 3);
    const unit = idle(built, ['7', '8']);
    const plan = must(growPlan(unit, { pool: 'p', idle: ['7', '8'], drive: { bytes: 8 * TB, basis: 'exact' } }));
    expect(membersAfter(unit, plan)).toEqual(expect.arrayContaining(['IDLE-7', 'IDLE-8', 'NEW-9']));
    const lacking = growPlan(unit, { pool: 'p', idle: ['7'] });
    expect(isRefusal(lacking) && [lacking.code, lacking.sentence]).toEqual([
      'drive-needed',
      'It takes 2 drives more: say which. One stands idle: bay 8 (IDLE-8).',
    ]);
  });

  it('change a level where no bay is free', () => {
    // By hand: two of 4 as a mirror hold 4; three of 4 as single parity hold 8, but for what the system takes of each.
    const unit = idle(unitOf(reedbank, [4, 4], 'mirror', 3), ['3'], 4);
    const [level] = levelsOf(unit, unit.pools['p'] as UnitState['pools'][string]);
    expect(level).toMatchObject({ to: 'parity-1', addedDrives: 1 });
    const wish: ChangeLevelWish = { pool: 'p', to: 'parity-1', idle: ['3'] };
    const plan = must(changeLevelPlan(unit, wish));
    expect(kindsOf(plan)).not.toContain('fit-drive');
    const end = unitIn(worked(unit, plan), 'u') as UnitState;
    expect(end.pools['p']?.scheme).toBe('parity-1');
    expect((end.pools['p']?.usableBytes ?? 0) / TB).toBeCloseTo(8, 1);
    const unnamed = changeLevelPlan(unit, { pool: 'p', to: 'parity-1' });
    expect(isRefusal(unnamed) && unnamed.sentence).toMatch(/idle: bay 3 \(IDLE-3\)|No bay is free/);
    expect(plansThatFit(unit)).toEqual(expect.arrayContaining(['convert']));
  });

  it('are refused where they show signs, are in a pool, or are too small', () => {
    const unit = idle(unitOf(saltern, [8, 8, 8], 'mixed-1', 6), ['4', '5'], 8, {
      kind: 'drive-suspected',
      serial: 'IDLE-5',
      note: 'clicks',
    });
    expect(codeOf(growPlan(unit, { pool: 'p', idle: ['1'] }))).toBe('not-idle');
    expect(codeOf(growPlan(unit, { pool: 'p', idle: ['6'] }))).toBe('not-idle');
    expect(codeOf(growPlan(unit, { pool: 'p', idle: ['5'] }))).toBe('sick-drive');
    expect(codeOf(growPlan(unit, { pool: 'p', idle: ['4'] }))).toBe('planned');
    const small = idle(unitOf(plain, [8, 8, 8], 'parity-1', 6), ['4'], 6);
    const refused = growPlan(small, { pool: 'p', idle: ['4'] });
    expect(isRefusal(refused) && refused.pointer).toBe('/idle');
  });
});
