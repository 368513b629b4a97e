import { describe, expect, it } from '@jest/globals';
import { expm, matrix } from 'mathjs';
import type { Band } from '../layout/band';
import type { Scheme } from '../layout/scheme';
import type { Pool } from '../unit/state';
import { lifeOfGroup, LOST } from './memberChain';
import { failsByDataSheet, lossWithoutRepair } from './lossWithoutRepair';

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
/** Every drive at the data sheet's rate of a disk. */
const loss = (of: Pool, hours: number): number =>
  lossWithoutRepair(of, (serial) => failsByDataSheet({ drives: {} }, serial, hours));
const pool = (bands: readonly Band[], missing: readonly string[] = [], scheme: Scheme = 'parity-2'): Pool =>
  ({ bands, missing, lost: [], scheme }) as unknown as Pool;

describe('lossWithoutRepair', () => {
  it('is one failure of any of n when none may fail: 1 − e^(−nt/MTTF) (closed form)', () => {
    for (const hours of [1, 24, 5000])
      expect(loss(pool([band(names(4), 1)], ['d0']), hours)).toBeCloseTo(-Math.expm1((-3 * hours) / MTTF), 12);
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
      expect(loss(pool([band(names(members), redundancy)]), hours) / chain).toBeCloseTo(1, 6);
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
      loss(pool([band(names(3, 'a'), 1), band(names(3, 'b'), 1)], [], 'parity-1-groups'), hours) / lost,
    ).toBeCloseTo(1, 6);
  });

  it('is certain once lost, and nothing in no time', () => {
    expect(loss({ ...pool([band(names(3), 1)]), lost: ['d0'] }, 1)).toBe(1);
    expect(loss(pool([band(names(3), 1)]), 0)).toBe(0);
  });

  it('counts every set of missing drives, in bands one above the other and drives that are not alike', () => {
    const fails: Readonly<Record<string, number>> = { a: 0.3, b: 0.11, c: 0.07, d: 0.2, e: 0.05 };
    const bands = [band(['a', 'b', 'c', 'd', 'e'], 2), band(['a', 'b', 'd'], 1), band(['a', 'b'], 1)];
    const serials = Object.keys(fails);
    for (const missing of [[], ['c'], ['a', 'c']]) {
      // Every set there is, by hand: an independent way.
      let sum = 0;
      for (let set = 0; set < 1 << serials.length; set++) {
        const gone = serials.filter((serial, i) => missing.includes(serial) || (set >> i) % 2 === 1);
        if (serials.some((serial, i) => missing.includes(serial) && (set >> i) % 2 === 1)) continue;
        const isLost = bands.some((one) => one.members.filter((of) => gone.includes(of)).length > one.redundancy);
        const chance = serials
          .filter((serial) => !missing.includes(serial))
          .reduce(
            (of, serial) => of * (gone.includes(serial) ? (fails[serial] as number) : 1 - (fails[serial] as number)),
            1,
          );
        sum += isLost ? chance : 0;
      }
      expect(lossWithoutRepair(pool(bands, missing), (serial) => fails[serial] as number)).toBeCloseTo(sum, 14);
    }
  });
});
