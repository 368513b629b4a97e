import { describe, expect, it } from '@jest/globals';
import reedbank from '../platform/profiles/reedbank.json';
import { must, NOW, unitOf } from '../plan/makers/testPlans';
import { needsOf } from '../upkeep/needsHands';
import { apply } from './apply';
import { whyNotRetired } from './retireUnit';
import type { UnitEvent } from './event';
import type { UnitState } from './state';

const after = (unit: UnitState, ...events: readonly UnitEvent[]): UnitState =>
  events.reduce((state, event) => must(apply(state, event, NOW)), unit);
const full = after(unitOf(reedbank, [4, 4], 'mirror', 2), {
  kind: 'unit-described',
  details: { address: '10.1.1.7', serial: 'RB-1' },
});
const out = (serial: string): UnitEvent => ({ kind: 'drive-removed', serial });
const emptied = after(full, { kind: 'pool-destroyed', pool: 'p' }, out('D-1'), out('D-2'));

describe('a unit that goes out of use', () => {
  it('is empty first, of drives, pools, and plans', () => {
    expect(whyNotRetired(full)).toMatchObject({
      code: 'not-empty',
      sentence: expect.stringMatching(/^D-1 stands in bay 1/),
    });
    expect(whyNotRetired(after(full, out('D-1'), out('D-2')))).toMatchObject({ code: 'pools-left' });
    const planned = after(emptied, {
      kind: 'plan-began',
      plan: 'x',
      job: 'commission',
      title: 'Begin',
      of: 1,
      serials: [],
    });
    expect(whyNotRetired(planned)).toMatchObject({ code: 'plan-running' });
    expect(whyNotRetired(emptied)).toBeUndefined();
  });

  it('frees its address, needs no hands, and takes nothing in any more', () => {
    const gone = after(emptied, { kind: 'unit-retired', note: 'to e-waste' });
    expect(gone).toMatchObject({ retired: { at: NOW, note: 'to e-waste' }, power: 'off', details: { serial: 'RB-1' } });
    expect(gone.details.address).toBeUndefined();
    expect(needsOf({ id: 'x', state: gone, used: {} })).toEqual([]);
    expect(needsOf({ id: 'x', state: emptied, used: {} }).length).toBeGreaterThan(0);
    const drive = { serial: 'N-1', bytes: 4e12, basis: 'exact' as const };
    expect(apply(gone, { kind: 'drive-inserted', bay: '1', drive }, NOW)).toMatchObject({ code: 'retired' });
    expect(apply(gone, { kind: 'unit-retired' }, NOW)).toMatchObject({ code: 'retired' });
    // Its name is free for the one that follows it once it has another.
    expect(after(gone, { kind: 'unit-described', name: 'Heron, old' }).name).toBe('Heron, old');
  });
});
