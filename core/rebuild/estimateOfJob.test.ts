import { describe, expect, it } from '@jest/globals';
import plain from '../platform/profiles/plain.json';
import saltern from '../platform/profiles/saltern.json';
import { planLayout } from '../layout/planLayout';
import type { Profile } from '../platform/profile';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import { poolCreated } from '../unit/poolCreated';
import type { Job, UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { estimateOfJob } from './estimateOfJob';

const START = '2026-01-01T00:00:00.000Z';
const at = (hours: number): string => new Date(Date.parse(START) + hours * 3_600_000).toISOString();
const hoursOf = (time: string | undefined): number => (Date.parse(time ?? '') - Date.parse(START)) / 3_600_000;

function unitOf(profile: object, events: readonly UnitEvent[]): UnitState {
  const drives = ['1', '2', '3'].map((bay) => ({ bay, bytes: 8e12 }));
  const pool = poolCreated(
    planLayout(profile as Profile, 'parity-1', drives),
    'p',
    'P',
    new Map(drives.map(({ bay }) => [bay, `D-${bay}`])),
  );
  if (isRefusal(pool)) throw new Error(pool.sentence);
  const all: UnitEvent[] = [
    {
      kind: 'unit-registered',
      name: 'U',
      place: { site: 'S', room: 'R' },
      profile: profile as Profile,
      enclosures: [{ name: 'Head', bays: ['1', '2', '3', '4'] }],
    },
    ...drives.map(({ bay, bytes }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: `D-${bay}`, bytes, basis: 'exact' },
    })),
    pool,
    ...events,
  ];
  return all.reduce<UnitState | null>((unit, event) => {
    const next = apply(unit, event, START);
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  }, null) as UnitState;
}

const rebuilding = (profile: object): { readonly unit: UnitState; readonly job: Job } => {
  const unit = unitOf(profile, [
    { kind: 'drive-failed', serial: 'D-2' },
    { kind: 'drive-inserted', bay: '4', drive: { serial: 'N', bytes: 8e12, basis: 'exact' } },
    { kind: 'job-started', job: 'j', task: 'rebuild', pool: 'p', replaces: 'D-2', onto: 'N' },
  ]);
  return { unit, job: unit.jobs['j'] as Job };
};
const running = (task: Job['task']): { readonly unit: UnitState; readonly job: Job } => {
  const unit = unitOf(plain, [{ kind: 'job-started', job: 'j', task, pool: 'p' }]);
  return { unit, job: unit.jobs['j'] as Job };
};

describe('estimateOfJob', () => {
  it('takes as long for half the space where only used space is rebuilt, and as long as ever where all of it is', () => {
    const half = (profile: object, share: number): number => {
      const { unit, job } = rebuilding(profile);
      return hoursOf(estimateOfJob(unit, job, { p: share * (unit.pools['p']?.shownBytes ?? 0) })?.likely);
    };
    expect(half(plain, 0.5)).toBeCloseTo(half(plain, 1), 6);
    expect(half(saltern, 0.5) / half(saltern, 1)).toBeGreaterThan(0.45);
    expect(half(saltern, 0.5) / half(saltern, 1)).toBeLessThan(0.55);
    // Nothing read of the fill: reckoned as full.
    const { unit, job } = rebuilding(saltern);
    expect(hoursOf(estimateOfJob(unit, job, {})?.likely)).toBeCloseTo(half(saltern, 1), 6);
  });

  it('reckons a check and a first build from the drives, and other work from its first report on', () => {
    for (const task of ['scrub', 'first-build'] as const) {
      const { unit, job } = running(task);
      expect(hoursOf(estimateOfJob(unit, job, {})?.likely)).toBeGreaterThan(5);
    }
    const { unit, job } = running('expand');
    expect(estimateOfJob(unit, job, {})).toBeNull();
    const told = { ...job, percent: 25, reports: [{ at: at(2), percent: 25 }] };
    expect(Math.abs(hoursOf(estimateOfJob(unit, told, {})?.likely) - 8)).toBeLessThan(0.4);
    expect(estimateOfJob(unit, { ...job, pool: 'gone' }, {})).toBeNull();
  });

  it('keeps the newest reports only, and takes a restart as one', () => {
    const { unit } = rebuilding(plain);
    let state = unit;
    for (let i = 0; i < 450; i++)
      state = apply(state, { kind: 'job-progressed', job: 'j', percent: i / 10 }, at(i / 20)) as UnitState;
    expect(state.jobs['j']?.reports).toHaveLength(400);
    state = apply(state, { kind: 'job-restarted', job: 'j' }, at(30)) as UnitState;
    const again = state.jobs['j'] as Job;
    expect([again.percent, again.startedAt]).toEqual([0, at(30)]);
    expect(estimateOfJob(state, again, {})?.progress).toBe(0);
  });
});
