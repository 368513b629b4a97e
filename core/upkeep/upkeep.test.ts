import plain from '../platform/profiles/plain.json' with { type: 'json' };
import { planLayout } from '../layout/planLayout';
import type { Profile } from '../platform/profile';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import { poolCreated } from '../unit/poolCreated';
import type { UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { needsHands } from './needsHands';
import type { DrawerDrive } from './spareCoverage';
import { volumeAgainstPool } from './volumeAgainstPool';

function unit(name: string, ...later: UnitEvent[]): { id: string; state: UnitState; used: Record<string, number> } {
  const drives = ['1', '2', '3', '4'].map((bay) => ({ bay, bytes: 8e12 }));
  const built = poolCreated(planLayout(plain as Profile, 'parity-2', drives), 'pool-1', 'Pool 1', new Map(drives.map(({ bay }) => [bay, `${name}-${bay}`])));
  const events = [
    { kind: 'unit-registered', name, place: { site: 'S', room: 'R' }, profile: plain, enclosures: [{ name: 'Head', bays: ['1', '2', '3', '4'] }] },
    ...drives.map(({ bay, bytes }) => ({ kind: 'drive-inserted', bay, drive: { serial: `${name}-${bay}`, bytes, basis: 'exact' } })),
    built,
    ...later,
  ] as UnitEvent[];
  let state: UnitState | null = null;
  for (const event of events) {
    const next = apply(state, event, '2026-01-01T00:00:00.000Z');
    if (isRefusal(next)) throw new Error(next.sentence);
    state = next;
  }
  return { id: name, state: state as UnitState, used: {} };
}

const NOW = '2026-01-02T00:00:00.000Z';
const DRAWERS: DrawerDrive[] = [{ serial: 'D1', bytes: 8e12, basis: 'exact', place: { site: 'S', room: 'R', drawer: 'top' } }];
const failed = (serial: string): UnitEvent => ({ kind: 'drive-failed', serial });

describe('needsHands', () => {
  it('puts loss before no margin before some margin before signs before fullness', () => {
    const lost = unit('Lost', failed('Lost-1'), failed('Lost-2'), failed('Lost-3'));
    const none = unit('None', failed('None-1'), failed('None-2'));
    const one = unit('One', failed('One-2'));
    const sign = unit('Sign', { kind: 'drive-suspected', serial: 'Sign-4', note: 'clicking' });
    const full = { ...unit('Full'), used: { 'pool-1': 16e12 * 0.83 } };
    const needs = needsHands([full, sign, one, none, lost, unit('Well')], DRAWERS, NOW).filter(({ urgency }) => urgency < 24 || (urgency > 29 && urgency < 31));
    expect(needs.map(({ unit: id, code }) => `${id} ${code}`)).toEqual([
      'Lost data-lost',
      'None member-failed',
      'None member-failed',
      'One member-failed',
      'Sign sign-growing',
      'Full near-full',
    ]);
    expect(needs[1]?.reason).toBe('It can lose none until it is rebuilt. Replace None-1 only, with a drive of at least 8 TB.');
    expect(needs[4]?.reason).toBe('Clicking. Have a fitting drive at hand.');
    expect(needs[5]?.title).toBe('Full · 83 % full');
  });

  it('asks for nothing while a rebuild is running, nor just below the line', () => {
    const waiting = unit(
      'Wait',
      failed('Wait-1'),
      { kind: 'drive-removed', serial: 'Wait-1' },
      { kind: 'drive-inserted', bay: '1', drive: { serial: 'New', bytes: 8e12, basis: 'exact' } },
      { kind: 'job-started', job: 'r', task: 'rebuild', pool: 'pool-1', replaces: 'Wait-1', onto: 'New' },
    );
    const cared = [waiting, { ...unit('Near'), used: { 'pool-1': 16e12 * 0.799 } }];
    expect(needsHands(cared, DRAWERS, NOW).filter(({ urgency }) => urgency < 24 || (urgency > 29 && urgency < 31))).toEqual([]);
  });
});

describe('volumeAgainstPool', () => {
  it('says when a volume shown as 16 TB on a pool of 10.9 TiB is really full', () => {
    // 12 of 16: the pool is full at three quarters; four fifths of that is 60 %.
    expect(volumeAgainstPool(16e12, 12e12, true)).toMatchObject({
      fits: false,
      looksFullAt: 0.75,
      sentence: expect.stringContaining('looks 75 % full. Set its warning at 60 %.'),
    });
    expect(volumeAgainstPool(16e12, 12e12, false).sentence).toMatch(/^A thick volume of 14\.6 TiB does not fit: the pool holds 10\.9 TiB\.$/);
    expect(volumeAgainstPool(8e12, 12e12, true)).toMatchObject({ fits: true, looksFullAt: 1 });
  });
});
