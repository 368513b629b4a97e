import { describe, expect, it } from '@jest/globals';
import { unreadableWhile } from '../risk/lossWithoutRepair';
import plain from '../platform/profiles/plain.json';
import type { UnitEvent } from './event';
import type { Job, Pool, UnitState } from './state';
import { afterEvents, eventsOfUnit } from './testUnit';
import { troubleBeside } from './troubleBeside';

const NOW = '2026-01-01T00:00:00.000Z';
const TB = 1e12;
const unit = (scheme: 'parity-1' | 'parity-2', ...more: UnitEvent[]): UnitState =>
  afterEvents(
    null,
    [...eventsOfUnit({ profile: plain, scheme, sizes: [8, 8, 8, 8].map((size) => size * TB), bays: 6 }), ...more],
    NOW,
  );
/** Bay 2 has failed, is out, and is being rebuilt onto a new drive in its bay. */
const rebuilding: UnitEvent[] = [
  { kind: 'drive-failed', serial: 'D-2' },
  { kind: 'drive-removed', serial: 'D-2' },
  { kind: 'drive-inserted', bay: '2', drive: { serial: 'N-2', bytes: 8 * TB, basis: 'exact' } },
  { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'p', replaces: 'D-2', onto: 'N-2' },
];
const told = (state: UnitState): ReturnType<typeof troubleBeside> => troubleBeside(state, state.jobs['r'] as Job);

describe('another drive shows something while one is rebuilt', () => {
  it('says nothing while the others are well, and nothing of the drive that went', () => {
    expect(told(unit('parity-1', ...rebuilding))).toEqual([]);
  });

  it('of a pool that can lose none says what that means, to let it finish, to copy off first, and to keep the old drive', () => {
    const [only, ...more] = told(
      unit('parity-1', ...rebuilding, { kind: 'drive-suspected', serial: 'D-3', note: 'an unreadable sector' }),
    );
    expect(more).toEqual([]);
    expect(only?.sentence).toBe(
      'Bay 3 (D-3) shows signs while this runs: an unreadable sector. Pool can lose none: if it goes, Pool stops.',
    );
    expect(only?.todo.join(' ')).toMatch(
      /Let it finish.*Copy off now.*Keep D-2 as it is, marked with the bay.*replace that drive next/,
    );
  });

  it('of one that can lose more does not cry out, and a failure beside it says so', () => {
    const [sign] = told(unit('parity-2', ...rebuilding, { kind: 'drive-suspected', serial: 'D-3', note: 'slow' }));
    expect(sign?.sentence).toMatch(/Pool can lose 1 more\.$/);
    expect(sign?.todo.join(' ')).not.toContain('Copy off');
    const [gone] = told(unit('parity-2', ...rebuilding, { kind: 'drive-failed', serial: 'D-3' }));
    expect(gone?.sentence).toMatch(/is out now as well\. Pool can lose none: with one more Pool stops\.$/);
    expect(gone?.todo.at(-1)).toContain('replace what is out');
  });

  it('reckons what is read of it with the bound of its data sheet: such drives have many unreadable sectors', () => {
    const at = (state: UnitState) => unreadableWhile(state, state.pools['p'] as Pool, 24 * TB);
    const [well, sick] = [
      at(unit('parity-1', ...rebuilding)),
      at(unit('parity-1', ...rebuilding, { kind: 'drive-suspected', serial: 'D-3', note: 'an unreadable sector' })),
    ];
    // 24 TB at one in 10^15 bits: 1 - exp(-0.192), by hand.
    expect(sick.usual).toBeCloseTo(-Math.expm1(-0.192), 3);
    expect([sick.bound, sick.usual]).toEqual([well.bound, well.bound]);
    expect(well.usual).toBeLessThan(well.bound / 5);
  });

  it('knows the new drive from a member, and leaves a pool that is down and a copy to their own words', () => {
    const [fresh] = told(unit('parity-1', ...rebuilding, { kind: 'drive-suspected', serial: 'N-2', note: 'slow' }));
    expect(fresh?.sentence).toContain('the new drive, shows signs itself: slow');
    expect(told(unit('parity-1', ...rebuilding, { kind: 'drive-failed', serial: 'D-3' }))).toEqual([]);
    const copying = unit(
      'parity-1',
      { kind: 'job-started', job: 'r', task: 'copy', pool: 'p' },
      { kind: 'drive-suspected', serial: 'D-3', note: 'slow' },
    );
    expect(told(copying)).toEqual([]);
  });
});
