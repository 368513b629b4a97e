import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import plain from '../platform/profiles/plain.json';
import type { Profile } from '../platform/profile';
import { describedUnit } from '../unit/describedUnit';
import type { UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { mergeInto, type Merge, type Merging } from './merge';
import type { StockLine } from './stock';

const TB = 1e12;
const NOW = '2026-11-30T12:00:00.000Z';

/** A unit of one bay with pools of so many bytes, and what it does for people. */
function unit(id: string, sizes: readonly number[], lines: readonly StockLine[] = []): Merging {
  const empty = describedUnit({ name: id, profile: plain as Profile, bays: 4 }, NOW);
  if (isRefusal(empty)) throw new Error(empty.sentence);
  const pools = Object.fromEntries(
    sizes.map((shownBytes, i) => [
      `${id}-${String(i)}`,
      {
        id: `${id}-${String(i)}`,
        name: `Pool ${String(i)}`,
        shownBytes,
        fileSystemReserveBytes: 0,
        missing: [],
        lost: [],
      },
    ]),
  );
  const drives = { [`D-${id}`]: { serial: `D-${id}`, bay: '1', bytes: 20 * TB, condition: 'well' } };
  const state = { ...empty, pools, drives, stock: { at: NOW, lines } } as unknown as UnitState;
  return { id, state };
}

const merged = (...of: Parameters<typeof mergeInto>): Merge => {
  const merge = mergeInto(...of);
  if (isRefusal(merge)) throw new Error(merge.sentence);
  return merge;
};

describe('several units that become one', () => {
  it('join with the least first, each into the pool with most room by then, as long as there is room', () => {
    const target = unit('t', [10 * TB, 6 * TB]);
    const { joining, hours } = merged(target, [unit('a', [8 * TB]), unit('b', [3 * TB]), unit('c', [5 * TB])], {
      't-0': 2 * TB,
      'c-0': 4 * TB,
    });
    // By hand: 8 and 6 TB of room; 3 into the first, then 4 into the second, then 8 go nowhere.
    expect(joining.map(({ name, bytes, pool }) => [name, bytes / TB, pool?.id, (pool?.leftBytes ?? 0) / TB])).toEqual([
      ['b', 3, 't-0', 5],
      ['c', 4, 't-1', 2],
      ['a', 8, undefined, 0],
    ]);
    expect(joining[2]?.whyNot.join()).toMatch(
      /^After those before it: 8 TB are in use, and the roomiest pool of t has room for 5 TB/,
    );
    // What cannot join takes no time.
    const [b, c] = joining;
    expect(hours[1]).toBeCloseTo((b?.hours[1] ?? 0) + (c?.hours[1] ?? 0), 9);
  });

  it('names what is called the same at both, or at one that joins before it; a person is one at both', () => {
    const lines = (...names: string[]): StockLine[] => names.map((name) => ({ what: 'share', name }));
    const mara: StockLine = { what: 'user', name: 'mara' };
    const { joining } = merged(
      unit('t', [50 * TB], [...lines('Maps'), mara]),
      [unit('a', [2 * TB], [...lines('Papers', 'maps '), mara]), unit('b', [4 * TB], lines('PAPERS'))],
      {},
    );
    expect(joining.map(({ namesTaken }) => namesTaken)).toEqual([['share maps '], ['share PAPERS']]);
  });

  it('has a sentence for a unit that would join itself, stands in the list twice, or is at work', () => {
    const [t, a] = [unit('t', [9 * TB]), unit('a', [1 * TB])];
    expect(mergeInto(t, [a, t], {})).toMatchObject({ code: 'same-unit', pointer: '/from/1' });
    expect(mergeInto(t, [a, a], {})).toMatchObject({ code: 'same-unit', pointer: '/from/1' });
    const busy = { ...a, state: { ...a.state, plans: { p: { title: 'Replace D-a' } } } as unknown as UnitState };
    expect(merged(t, [busy], {}).joining[0]?.whyNot).toEqual([
      '“Replace D-a” is under way there: it is finished first.',
    ]);
  });

  it('never puts more into a pool than it has room for (property)', () => {
    const size = fc.integer({ min: 1, max: 30 });
    fc.assert(
      fc.property(
        fc.array(size, { minLength: 1, maxLength: 3 }),
        fc.array(size, { minLength: 1, maxLength: 6 }),
        (pools, units) => {
          const { joining } = merged(
            unit(
              't',
              pools.map((of) => of * TB),
            ),
            units.map((of, i) => unit(`u${String(i)}`, [of * TB])),
            {},
          );
          for (const { id } of Object.values(
            unit(
              't',
              pools.map((of) => of * TB),
            ).state.pools,
          )) {
            const into = joining.filter(({ pool }) => pool?.id === id);
            const all = into.reduce((sum, { bytes }) => sum + bytes, 0);
            const room = (pools[Number(id.split('-')[1])] ?? 0) * TB;
            expect(all).toBeLessThanOrEqual(room);
            if (into.length > 0) expect(into.at(-1)?.pool?.leftBytes).toBe(room - all);
          }
          // Whoever cannot join had less room than it needs.
          for (const { whyNot, pool } of joining) expect(whyNot.length === 0).toBe(pool !== undefined);
        },
      ),
    );
  });
});
