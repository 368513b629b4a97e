import { describe, expect, it } from '@jest/globals';
import causeway from '../platform/profiles/causeway.json';
import plain from '../platform/profiles/plain.json';
import reedbank from '../platform/profiles/reedbank.json';
import saltern from '../platform/profiles/saltern.json';
import tidemill from '../platform/profiles/tidemill.json';
import { must, NOW, TB, unitOf } from '../plan/makers/testPlans';
import { apply } from '../unit/apply';
import type { UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { waysToMove, type WayToMove } from './waysToMove';

/** A unit of so many bays with nothing in it. */
function bare(profile: object, bays: number): UnitState {
  const unit = unitOf(profile, [4, 4], profile === tidemill ? 'dedicated-1' : 'mirror', bays);
  return { ...unit, name: 'Newer', drives: {}, pools: {} };
}
function ways(from: UnitState, to: UnitState, used: Record<string, number> = {}): Record<string, WayToMove> {
  const found = waysToMove(from, to, used);
  if (isRefusal(found)) throw new Error(found.sentence);
  return Object.fromEntries(found.map((one) => [one.way, one]));
}
const possible = (of: Record<string, WayToMove>): string[] =>
  Object.values(of).flatMap((one) => (one.possible ? [one.way] : []));

describe('ways from an old unit to a newer one', () => {
  it('carries in order where the family goes by bays, by serial where it goes by serials', () => {
    const slots = ways(unitOf(reedbank, [4, 4, 4], 'parity-1', 4), bare(reedbank, 5));
    expect(possible(slots)).toEqual(['carry-by-slot']);
    expect(slots['carry-by-slot']?.reasons[0]).toMatch(/^All 3 drives go over, each into the bay of the same number/);
    expect(slots['carry-by-slot']?.pointOfNoReturn).toMatch(/^A yes to erase/);
    const serials = ways(unitOf(tidemill, [8, 4, 4], 'dedicated-1', 4), bare(tidemill, 12));
    expect(possible(serials)).toEqual(['carry-by-serial']);
    expect(serials['carry-by-serial']?.reasons.join(' ')).toMatch(/flash stick/);
    // Minutes, not hours: a drive a minute and a half, two starts and a look.
    expect(slots['carry-by-slot']?.hours[1]).toBeLessThan(1);
  });

  it.each<[string, UnitState, UnitState, RegExp]>([
    ['another family', unitOf(reedbank, [4, 4], 'mirror', 2), bare(saltern, 4), /only an offer to erase/],
    [
      'one bay to a larger unit',
      unitOf(reedbank, [4], 'separate', 1),
      bare(reedbank, 2),
      /one-bay .* does not move to a larger/,
    ],
    ['fewer bays', unitOf(reedbank, [4, 4, 4, 4], 'parity-1', 4), bare(reedbank, 2), /2 bays for 4 drives/],
    ['a family that carries nothing', unitOf(plain, [4, 4], 'mirror', 2), bare(plain, 4), /does not carry drives over/],
    [
      'a bay that is not there',
      { ...unitOf(reedbank, [4, 4], 'mirror', 2), ...movedTo('8') },
      bare(reedbank, 5),
      /has no bay 8/,
    ],
    [
      'drives already there',
      unitOf(reedbank, [4, 4], 'mirror', 2),
      { ...unitOf(reedbank, [4], 'separate', 4), name: 'Newer' },
      /A drive stands in Newer already/,
    ],
    [
      'a thinned pool',
      must(apply(unitOf(reedbank, [4, 4], 'mirror', 2), { kind: 'drive-failed', serial: 'D-1' }, NOW) as UnitState),
      bare(reedbank, 4),
      /is thinned/,
    ],
  ])('does not carry over, and says why: %s', (_what, from, to, why) => {
    const of = ways(from, to);
    expect(of['carry-by-slot']?.possible).toBe(false);
    expect(of['carry-by-slot']?.reasons.join(' ')).toMatch(why);
    expect(of['carry-by-slot']?.pointOfNoReturn).toBeUndefined();
  });

  it('copies where there is a pool with room for what is in use', () => {
    const from = unitOf(reedbank, [4, 4], 'mirror', 2);
    const to = { ...unitOf(causeway, [8, 8, 8, 8], 'parity-1', 12), name: 'Newer' };
    const renamed = { ...to, pools: { q: { ...(to.pools['p'] as (typeof to.pools)[string]), id: 'q' } } };
    const of = ways(from, renamed, { p: 1.3 * TB });
    expect(possible(of)).toEqual(['copy']);
    // 1.3 TB of large files in a quarter past three hours (common practice), and longer of small ones.
    const [low, likely, high] = of['copy']?.hours ?? [0, 0, 0];
    expect(low).toBeGreaterThan(2.5);
    expect(low).toBeLessThan(3.5);
    expect(low < likely && likely < high).toBe(true);
    expect(ways(from, renamed, { p: 1.3 * TB, q: 23 * TB })['copy']?.reasons[0]).toMatch(/has room for/);
    expect(ways(from, bare(causeway, 12))['copy']?.reasons[0]).toMatch(/has no pool to copy to/);
    expect(ways(from, renamed)['copy']?.reasons.join(' ')).toMatch(/never read: it is reckoned as full/);
  });

  it('has nothing to say of a unit without drives', () => {
    expect(waysToMove(bare(reedbank, 2), bare(reedbank, 4), {})).toMatchObject({ code: 'nothing-to-move' });
  });

  it('copies while people work: longer at night only, in more passes, until the time off is short', () => {
    const from = unitOf(reedbank, [8, 8], 'mirror', 2);
    const to = unitOf(causeway, [12, 12, 12], 'parity-1', 12);
    const passes = (hoursPerDay: number) => {
      const found = must(waysToMove(from, to, { p: 4 * TB }, { hoursPerDay }));
      return found.find(({ way }) => way === 'copy')?.takes?.inPasses;
    };
    const [always, nights] = [passes(24), passes(10)];
    expect((nights?.days ?? 0) / (always?.days ?? 1)).toBeGreaterThan(2);
    // One pass more where more is left, until the time off is short.
    expect([always?.passes, nights?.passes]).toEqual([2, 3]);
    for (const one of [always, nights]) expect(one?.offHours).toBeLessThan(0.25);
  });
});

/** Its second drive stands in another bay. */
function movedTo(bay: string): Pick<UnitState, 'drives' | 'enclosures'> {
  const unit = unitOf(reedbank, [4, 4], 'mirror', 8);
  const drive = unit.drives['D-2'];
  if (!drive) throw new Error('D-2 is missing');
  return { enclosures: unit.enclosures, drives: { ...unit.drives, 'D-2': { ...drive, bay } } };
}
