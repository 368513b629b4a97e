import { describe, expect, it } from '@jest/globals';
import causeway from '../../platform/profiles/causeway.json';
import plain from '../../platform/profiles/plain.json';
import reedbank from '../../platform/profiles/reedbank.json';
import saltern from '../../platform/profiles/saltern.json';
import { apply } from '../../unit/apply';
import type { UnitState } from '../../unit/state';
import { must, NOW, unitOf } from './testPlans';
import { plansThatFit } from './plansThatFit';

describe('the plans that fit a unit', () => {
  it.each([
    ['a full mirror of one volume', reedbank, [4, 4], 'mirror', 2, ['replace', 'replace-all']],
    [
      'the same with free bays',
      reedbank,
      [4, 4],
      'mirror',
      4,
      ['replace', 'grow', 'replace-all', 'convert', 'hot-spare'],
    ],
    ['a stripe', plain, [4, 4], 'stripe', 4, ['replace', 'grow', 'new-pool']],
    [
      'a mixed pool, in a family with slots for cache',
      saltern,
      [4, 8],
      'mixed-1',
      2,
      ['replace', 'replace-all', 'cache'],
    ],
  ] as const)('%s', (_what, profile, sizes, scheme, bays, jobs) => {
    expect(plansThatFit(unitOf(profile, sizes, scheme, bays))).toEqual(jobs);
  });

  it('offers an extension to a family that has them, and nothing before there is a pool', () => {
    const rack = unitOf(causeway, [4, 4, 4, 4], 'parity-1', 12);
    expect(plansThatFit(rack)).toContain('extend');
    expect(plansThatFit(must(apply(rack, { kind: 'pool-destroyed', pool: 'p' }, NOW) as UnitState))).toEqual([]);
  });
});
