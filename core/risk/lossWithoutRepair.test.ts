import { describe, expect, it } from '@jest/globals';
import { expm, matrix } from 'mathjs';
import type { Band } from '../layout/band';
import type { Scheme } from '../layout/scheme';
import type { Pool, UnitState } from '../unit/state';
import { lifeOfGroup, LOST } from './memberChain';
import { lossWithoutRepair } from './lossWithoutRepair';

const MTTF = 1e6;
const names = (n: number, of = 'd'): string[] => Array.from({ length: n }, (_, i) => `${of}${String(i)}`);
const band = (members: readonly string[], redundancy: number): Band => ({
  kind: 'parity',
  fromBytes: 0,
  toBytes: 8,
  members,
  redundancy,
  usableBytes: 8,
});
const unit = { drives: {} } as UnitState;
const pool = (bands: readonly Band[], missing: readonly string[] = [], scheme: Scheme = 'parity-2'): Pool =>
  ({ bands, missing, lost: [], scheme }) as unknown as Pool;

describe('lossWithoutRepair', () => {
  it('is one failure of any of n when none may fail: 1 − e^(−nt/MTTF) (closed form)', () => {
    for (const hours of [1, 24, 5000])
      expect(lossWithoutRepair(unit, pool([band(names(4), 1)], ['d0']), hours)).toBeCloseTo(
        -Math.expm1((-3 * hours) / MTTF),
        12,
      );
  });

  it('agrees with the chain whose repairs take for ever', () => {
    for (const [members, redundancy, hours] of [
      [4, 1, 100],
      [8, 2, 2000],
      [12, 2, 20],
    ] as const) {
      const alike = { count: members, failureRate: 1 / MTTF, rebuildHours: 1e15, unreadablePerByte: 0, bands: [0] };
      const chain = lifeOfGroup(
        { kinds: [alike], bands: [{ redundancy, readBytes: 0 }], repairs: 'serial', spares: 0, orderHours: 0 },
        false,
      ).by(hours)[LOST] as number;
      expect(lossWithoutRepair(unit, pool([band(names(members), redundancy)]), hours) / chain).toBeCloseTo(1, 6);
    }
  });

  it('agrees with the matrix exponential of a general library, two groups side by side', () => {
    const hours = 3000;
    const rate = 1 / MTTF;
    // States: failed in the first and in the second group of three, none or one each; the last is loss.
    const states = [
      [0, 0],
      [1, 0],
      [0, 1],
      [1, 1],
    ] as const;
    const rows = [...states, null].map((from) => {
      const row = [0, 0, 0, 0, 0];
      if (!from) return row;
      for (const group of [0, 1] as const) {
        const to =
          from[group] === 0 ? states.findIndex((of) => of[group] === 1 && of[1 - group] === from[1 - group]) : 4;
        row[to] = (row[to] as number) + (3 - from[group]) * rate;
      }
      row[states.indexOf(from)] = -row.reduce((sum, one) => sum + one, 0);
      return row;
    });
    const lost = expm(matrix(rows.map((row) => row.map((one) => one * hours)))).get([0, 4]) as number;
    expect(
      lossWithoutRepair(unit, pool([band(names(3, 'a'), 1), band(names(3, 'b'), 1)], [], 'parity-1-groups'), hours) /
        lost,
    ).toBeCloseTo(1, 6);
  });

  it('is certain once lost, and nothing in no time', () => {
    expect(lossWithoutRepair(unit, { ...pool([band(names(3), 1)]), lost: ['d0'] }, 1)).toBe(1);
    expect(lossWithoutRepair(unit, pool([band(names(3), 1)]), 0)).toBe(0);
  });
});
