import { describe, expect, it } from '@jest/globals';
import { beyondAnyLife } from './beyondAnyLife';
import { lifeOfGroup, LOST } from './memberChain';
import type { MemberGroup } from './memberGroup';

const copies = (count: number, repairs: MemberGroup['repairs'], orderHours: number): MemberGroup => ({
  kinds: [{ count, failureRate: 4.6e-6, rebuildHours: 10, unreadablePerByte: 8e-15, bands: [0] }],
  bands: [{ redundancy: count - 1, readBytes: 4e12 }],
  repairs,
  spares: 0,
  orderHours,
});

/**
 * Independent reference: mean hours until copies end, by elimination without a subtraction (Grassmann, Taksar and Heyman
 * 1985), state by state of how many are missing and how many of these have their drive.
 */
function meanHours(group: MemberGroup, endsAtUnreadable: boolean): number {
  const [kind, band] = [group.kinds[0], group.bands[0]];
  if (!kind || !band) return NaN;
  const states: [number, number][] = [];
  for (let k = 0; k <= band.redundancy; k++)
    for (let here = group.orderHours === 0 ? k : 0; here <= k; here++) states.push([k, here]);
  const at = (k: number, here: number): number => states.findIndex(([a, b]) => a === k && b === here);
  const end = states.length;
  const rates = states.map(([k, here]) => {
    const row = Array<number>(end + 1).fill(0);
    const add = (to: number, rate: number): void => void (row[to] = (row[to] as number) + rate);
    const fails = (kind.count - k) * kind.failureRate;
    add(k === band.redundancy ? end : at(k + 1, group.orderHours === 0 ? here + 1 : here), fails);
    if (here < k) add(at(k, here + 1), (k - here) / group.orderHours);
    const mends = (group.repairs === 'serial' ? Math.min(1, here) : here) / kind.rebuildHours;
    const chance = k === band.redundancy ? -Math.expm1(-(kind.count - k) * kind.unreadablePerByte * band.readBytes) : 0;
    if (here > 0) {
      add(at(k - 1, here - 1), mends * (endsAtUnreadable ? 1 - chance : 1));
      if (endsAtUnreadable) add(end, mends * chance);
    }
    return row;
  });
  const time = states.map(() => 1);
  for (let i = end - 1; i > 0; i--) {
    const row = rates[i] as number[];
    const out = row.reduce((sum, rate, j) => (j < i || j === end ? sum + rate : sum), 0);
    for (let from = 0; from < i; from++) {
      const into = rates[from] as number[];
      const share = (into[i] as number) / out;
      if (share === 0) continue;
      for (let j = 0; j < i; j++) if (j !== from) into[j] = (into[j] as number) + share * (row[j] as number);
      into[end] = (into[end] as number) + share * (row[end] as number);
      time[from] = (time[from] as number) + share * (time[i] as number);
    }
  }
  return (time[0] as number) / ((rates[0] as number[])[end] as number);
}

describe('beyondAnyLife', () => {
  it('comes to the rates of the whole chain, one after another or side by side, drives in the drawer or ordered', () => {
    for (const repairs of ['serial', 'parallel'] as const)
      for (const orderHours of [0, 72])
        for (const count of [16, 24]) {
          const group = copies(count, repairs, orderHours);
          const rates = beyondAnyLife(group);
          expect(rates).not.toBeNull();
          if (!rates) continue;
          expect(rates.lost * meanHours(group, false)).toBeCloseTo(1, 2);
          // An unreadable sector stops what would else be read again: a little less often than it is met.
          const either = (rates.lost + rates.unreadable) * meanHours(group, true);
          expect(Math.abs(either - 1)).toBeLessThan(0.2);
        }
  });

  it('leaves to the chain what a life could show, and what drives in the drawer come into', () => {
    expect(beyondAnyLife(copies(4, 'parallel', 72))).toBeNull();
    expect(beyondAnyLife({ ...copies(24, 'parallel', 72), spares: 1 })).toBeNull();
    expect(beyondAnyLife({ ...copies(24, 'parallel', 72), orderHours: Infinity })).toBeNull();
    // The chain and the product agree to far more than an order of magnitude where the one takes over from the other.
    const [chain, direct] = [9, 10].map((count) => meanHours(copies(count, 'parallel', 0), false));
    expect(
      (lifeOfGroup(copies(9, 'parallel', 0), false).by(8760)[LOST] as number) / (8760 / (chain as number)),
    ).toBeCloseTo(1, 1);
    expect(
      (lifeOfGroup(copies(10, 'parallel', 0), false).by(8760)[LOST] as number) / (8760 / (direct as number)),
    ).toBeCloseTo(1, 1);
  });
});
