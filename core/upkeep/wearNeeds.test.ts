import { serialOf, unitAfter } from '../observe/testHeron';
import type { LifePoint } from '../drive/wearOut';
import { wearNeeds } from './wearNeeds';

const unit = unitAfter();
const serial = (bay: string): string => String(serialOf.get(bay));
/** Read on the first of each month of two years, so many percent less each time. */
const worn = (from: number, perMonth: number): LifePoint[] =>
  Array.from({ length: 24 }, (_, i) => ({
    day: `${String(2024 + Math.floor(i / 12))}-${String((i % 12) + 1).padStart(2, '0')}-01`,
    left: Math.floor(from - perMonth * i),
  }));
const needs = (life: Record<string, LifePoint[]>) => wearNeeds({ id: 'heron', state: unit, used: {}, life });

it('says nothing of drives that say nothing of it, or that last', () => {
  expect(wearNeeds({ id: 'heron', state: unit, used: {} })).toEqual([]);
  expect(needs({ [serial('1')]: worn(100, 0.1), 'GONE-1': worn(10, 0.4) })).toEqual([]);
});

it('speaks of one half a year ahead of its likely end, and at once where little is left', () => {
  const [ahead, ...others] = needs({ [serial('2')]: worn(100, 2) });
  expect(others).toEqual([]);
  expect(ahead).toMatchObject({
    code: 'wears-out',
    serial: serial('2'),
    title: 'Heron · bay 2: 54 % of its rated life left',
  });
  // By hand: 54.5 % at 2 % a month are 27 months from December 2025, March 2028; half a year before is September 2027.
  expect(ahead?.from.slice(0, 7)).toMatch(/^2027-(08|09|10)$/);
  const [little] = needs({ [serial('2')]: [{ day: '2026-01-01', left: 7 }] });
  expect(little).toMatchObject({ from: '1970-01-01T00:00:00.000Z' });
  expect(little?.reason).not.toContain('lasts');
});

it('speaks of those that wear out together a year ahead, where they are more than the pool can lose', () => {
  const alike = { [serial('1')]: worn(100, 2), [serial('3')]: worn(101, 2) };
  const together = needs(alike).find(({ code }) => code === 'wear-together');
  expect(together?.title).toBe('Heron · 2 flash drives of Pool wear out together');
  expect(together?.reason).toMatch(/^bay 1, bay 3: .*the pool can lose 1\. /);
  expect(together?.from.slice(0, 7)).toMatch(/^2027-(02|03|04)$/);
  // One that was replaced ahead is a year behind the other.
  expect(needs({ ...alike, [serial('3')]: worn(130, 2) }).map(({ code }) => code)).toEqual(['wears-out', 'wears-out']);
});
