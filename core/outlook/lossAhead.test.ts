import { describe, expect, it } from '@jest/globals';
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import { must, NOW, poolOf, unitOf } from '../plan/makers/testPlans';
import { simulate } from '../risk/simulate/simulate';
import type { SimulatedPool } from '../risk/simulate/simulatedPool';
import type { DriveInUnit, UnitState } from '../unit/state';
import { NOTICED, ratesAt } from './assumed';
import { lossAhead, lossAt, type Thought } from './lossAhead';
import { poolToCome } from './poolToCome';

const THOUGHT: Thought = { failuresPerYear: [0.009, 0.04], lots: [] };
const old: Partial<DriveInUnit> = { boughtOn: '2021-01-01' };
const ofLot: Partial<DriveInUnit> = { boughtOn: '2022-06-01', model: 'M', lot: '7' };

function known(unit: UnitState, of: Readonly<Record<string, Partial<DriveInUnit>>>): UnitState {
  const drives = Object.entries(unit.drives).map(([serial, drive]) => [serial, { ...drive, ...of[serial] }]);
  return { ...unit, drives: Object.fromEntries(drives) as UnitState['drives'] };
}

describe('lossAhead', () => {
  const TB = 8;
  it.each<[string, UnitState, string[], number]>([
    [
      'old and sick drives, one out',
      known(unitOf(plain, [TB, TB, TB, TB], 'parity-1', 4), { 'D-1': old, 'D-2': { condition: 'suspected' } }),
      ['D-3'],
      30,
    ],
    [
      'one lot with two protections',
      known(unitOf(plain, [TB, TB, TB, TB, TB], 'parity-2', 5), {
        'D-1': ofLot,
        'D-2': ofLot,
        'D-3': ofLot,
        'D-4': old,
      }),
      [],
      2000,
    ],
    [
      'drives that are not alike, in bands',
      known(unitOf(plain, [2, 2, 6, TB, TB], 'mixed-1', 5), { 'D-1': ofLot, 'D-2': ofLot, 'D-4': old, 'D-5': old }),
      [],
      800,
    ],
    [
      'striped mirrors of two lots',
      known(unitOf(plain, [TB, TB, TB, TB], 'striped-mirrors', 4), {
        'D-1': ofLot,
        'D-2': ofLot,
        'D-3': { ...ofLot, lot: '8' },
        'D-4': { ...ofLot, lot: '8' },
      }),
      [],
      400,
    ],
  ])('is what a simulation says in which nobody ever comes: %s', (_, unit, missing, hours) => {
    const pool = { ...poolOf(unit), missing };
    for (const end of [0, 1] as const) {
      const rates = ratesAt(end, THOUGHT.failuresPerYear);
      const exact = lossAt(unit, pool, hours, NOW, { rates, lots: [] });
      const toCome: SimulatedPool = {
        ...must(
          poolToCome(unit, pool, {
            care: { notice: 'after-weeks', orderDays: 3, scrubDays: null, inDrawer: 0 },
            rates,
            now: NOW,
            usedShare: 1,
            lots: [],
          }),
        ),
        notice: { ...NOTICED['after-weeks'], leastHours: 1e9 },
        order: { leastHours: 1e9, scaleHours: 0, shape: 1 },
        spares: { inUnit: 0, inDrawer: 0 },
      };
      const { lost } = simulate(toCome, { hours, seed: 3, mostLives: 60_000 });
      expect(lost.trouble).toBeUndefined();
      // Within three half-widths of a span that holds 95 in 100: one of a hundred thousand such tests fails by chance.
      expect(Math.abs(lost.likely - exact)).toBeLessThan(((lost.high - lost.low) / 2) * 2.3);
    }
  });

  it('has what data sheets leave out: age, signs and lots each make it likelier', () => {
    const unit = unitOf(plain, [TB, TB, TB, TB], 'parity-1', 4);
    const pool = poolOf(unit);
    const [, asNew] = lossAhead(unit, pool, 48, NOW, THOUGHT);
    const likelier = (of: Readonly<Record<string, Partial<DriveInUnit>>>): number =>
      lossAhead(known(unit, of), pool, 48, NOW, THOUGHT)[1] / asNew;
    expect(likelier({ 'D-1': old })).toBeGreaterThan(1.5);
    expect(likelier({ 'D-1': { condition: 'suspected' } })).toBeGreaterThan(10);
    // Two of a lot of which one failed early, elsewhere.
    const [, one] = lossAhead(known(unit, { 'D-1': ofLot, 'D-2': ofLot }), pool, 48, NOW, THOUGHT);
    const [, worse] = lossAhead(known(unit, { 'D-1': ofLot, 'D-2': ofLot }), pool, 48, NOW, {
      ...THOUGHT,
      lots: [{ lot: JSON.stringify(['M', '7']), failures: 2, years: [1, 1] }],
    });
    expect(worse / one).toBeGreaterThan(1.5);
    expect(lossAhead(unit, { ...pool, lost: ['D-1'] }, 1, NOW, THOUGHT)).toEqual([1, 1]);
    expect(lossAhead(unit, pool, 0, NOW, THOUGHT)).toEqual([0, 0]);
  });
});
