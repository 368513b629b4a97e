import { expect, it } from '@jest/globals';
import saltern from '../../platform/profiles/saltern.json';
import { afterEvents } from '../../unit/testUnit';
import { replacePlan } from './replace';
import { spareInPlan } from './spareIn';
import { codeOf, must, NOW, TB, unitOf } from './testPlans';

const drive = { bytes: 8 * TB, basis: 'exact' } as const;
const withSpare = (size: number) =>
  afterEvents(
    unitOf(saltern, [8, 8, 8], 'mixed-1', 5),
    [
      { kind: 'drive-inserted', bay: '4', drive: { serial: 'S-4', bytes: size * TB, basis: 'exact' } },
      { kind: 'spare-assigned', pool: 'p', serial: 'S-4' },
    ],
    NOW,
  );
const failed = (size: number) => afterEvents(withSpare(size), [{ kind: 'drive-failed', serial: 'D-1' }], NOW);
const wish = { serial: 'D-1', way: 'in-place', drive } as const;

it('leads what is missing by exactly one plan: the spare’s where it fits, the usual one where it does not', () => {
  const codes = (size: number) => [
    codeOf(replacePlan(failed(size), wish)),
    codeOf(spareInPlan(failed(size), { serial: 'D-1', spare: 'S-4', drive })),
  ];
  expect(codes(8)).toEqual(['spare-waits', 'planned']);
  expect(codes(4)).toEqual(['planned', 'spare-too-small']);
});

it('lets a spare off before a member that works comes out, and makes it the spare again', () => {
  const ids = must(replacePlan(withSpare(8), wish)).steps.map(({ id }) => id);
  expect(ids.indexOf('spares-aside')).toBeLessThan(ids.indexOf('out'));
  expect(ids.indexOf('spares-back')).toBeGreaterThan(ids.indexOf('wait'));
});
