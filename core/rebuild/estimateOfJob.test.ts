import { describe, expect, it } from '@jest/globals';
import { linearRegression, standardDeviation } from 'simple-statistics';
import causeway from '../platform/profiles/causeway.json' with { type: 'json' };
import plain from '../platform/profiles/plain.json' with { type: 'json' };
import saltern from '../platform/profiles/saltern.json' with { type: 'json' };
import type { Profile } from '../platform/profile';
import { apply } from '../unit/apply';
import type { UnitEvent } from '../unit/event';
import type { Job, UnitState } from '../unit/state';
import { chance } from '../value/seeded';
import { estimateOfJob } from './estimateOfJob';
import type { LiveEstimate } from './liveEstimate';
import { hoursLearnt } from './hoursLearnt';
import { taughtBy } from './paces';
import type { WorkKnown } from './workKnown';
import { paceOfJob, passOfJob, type DrivePass } from './passOfJob';
import { PATTERNS } from './thoughtOf';
import { timeAt } from './workCurve';
import { afterEvents, eventsOfUnit } from '../unit/testUnit';

const START = '2026-01-01T00:00:00.000Z';
const at = (hours: number): string => new Date(Date.parse(START) + hours * 3_600_000).toISOString();
const hoursOf = (time: string | undefined): number => (Date.parse(time ?? '') - Date.parse(START)) / 3_600_000;

function unitOf(profile: object, events: readonly UnitEvent[]): UnitState {
  const begun = eventsOfUnit({ profile, scheme: 'parity-1', sizes: [8e12, 8e12, 8e12], bays: 4, name: 'U' });
  return afterEvents(null, [...begun, ...events], START);
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
      return hoursOf(estimateOfJob(unit, job, { used: { p: share * (unit.pools['p']?.shownBytes ?? 0) } })?.likely);
    };
    expect(half(plain, 0.5)).toBeCloseTo(half(plain, 1), 6);
    expect(half(saltern, 0.5) / half(saltern, 1)).toBeGreaterThan(0.45);
    expect(half(saltern, 0.5) / half(saltern, 1)).toBeLessThan(0.55);
    // Nothing read of the fill: reckoned as full.
    const { unit, job } = rebuilding(saltern);
    expect(hoursOf(estimateOfJob(unit, job, { used: {} })?.likely)).toBeCloseTo(half(saltern, 1), 6);
  });

  it('reckons a check and a first build from the drives, and other work from its first report on', () => {
    for (const task of ['scrub', 'first-build'] as const) {
      const { unit, job } = running(task);
      expect(hoursOf(estimateOfJob(unit, job, { used: {} })?.likely)).toBeGreaterThan(5);
    }
    const { unit, job } = running('expand');
    expect(estimateOfJob(unit, job, { used: {} })).toBeNull();
    const told = { ...job, percent: 25, reports: [{ at: at(2), percent: 25 }] };
    expect(Math.abs(hoursOf(estimateOfJob(unit, told, { used: {} })?.likely) - 8)).toBeLessThan(0.4);
    expect(estimateOfJob(unit, { ...job, pool: 'gone' }, { used: {} })).toBeNull();
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
    expect(estimateOfJob(state, again, { used: {} })?.progress).toBe(0);
  });

  /** A check that was read every two hours while it ran so many times slower than reckoned, and is done. */
  const checked = (unit: UnitState, slower: number, name: string, from: number): UnitState => {
    const begun = apply(unit, { kind: 'job-started', job: name, task: 'scrub', pool: 'p' }, at(from)) as UnitState;
    const { curve, likely } = passOfJob(begun, begun.jobs[name] as Job, {}) as DrivePass;
    let state = begun;
    for (let hours = 2; ; hours += 2) {
      const time = (hours * 3600) / (likely * slower);
      if (time >= 1) break;
      const share = Math.max(...Array.from({ length: 101 }, (_, i) => (timeAt(curve, i / 100) <= time ? i : 0)));
      state = apply(state, { kind: 'job-progressed', job: name, percent: share }, at(from + hours)) as UnitState;
    }
    // Written down the day after: that is not how long it took.
    return apply(state, { kind: 'job-finished', job: name }, at(from + 24 + (likely * slower) / 3600)) as UnitState;
  };
  const hoursToCome = (
    unit: UnitState,
    from: number,
  ): { low: number; likely: number; high: number; earlier: number } => {
    const begun = apply(unit, { kind: 'job-started', job: 'next', task: 'scrub', pool: 'p' }, at(from)) as UnitState;
    const seen = estimateOfJob(begun, begun.jobs['next'] as Job, { used: {} });
    const [low, likely, high] = [seen?.low, seen?.likely, seen?.high].map((time) => hoursOf(time) - from) as [
      number,
      number,
      number,
    ];
    return { low, likely, high, earlier: seen?.earlier ?? NaN };
  };

  it('expects of the next run what earlier runs of the unit took, the more the more there were', () => {
    const bare = unitOf(plain, []);
    const plainly = hoursToCome(bare, 0);
    expect(plainly.earlier).toBe(0);
    const once = checked(bare, 2, 'a', 0);
    expect(once.paces).toHaveLength(1);
    expect(Math.abs((once.paces?.[0]?.slower ?? 0) - 2)).toBeLessThan(0.08);
    const after = hoursToCome(once, 100);
    expect(after.earlier).toBe(1);
    // 2 to the power of 0.0724 / (0.0724 + 0.04), by hand.
    expect(after.likely / plainly.likely).toBeGreaterThan(1.45);
    expect(after.likely / plainly.likely).toBeLessThan(1.65);
    expect((after.high - after.low) / after.likely).toBeLessThan(0.9 * ((plainly.high - plainly.low) / plainly.likely));
    const often = ['b', 'c', 'd', 'e'].reduce((unit, name, i) => checked(unit, 2, name, 100 * (i + 1)), once);
    const much = hoursToCome(often, 900).likely / plainly.likely;
    expect(much).toBeGreaterThan(after.likely / plainly.likely);
    expect(much).toBeLessThan(2.05);
    // As many as are kept, and no more.
    const many = Array.from({ length: 15 }, (_, i) => String(i)).reduce(
      (unit, name, i) => checked(unit, 1, name, 100 * i),
      bare,
    );
    expect(many.paces).toHaveLength(12);
    // How they went, for their hours, of the newest three.
    expect(many.paces?.map(({ run }) => run !== undefined)).toEqual([...Array(9).fill(false), true, true, true]);
    expect(many.paces?.at(-1)?.run?.begun).toBe(at(1400));
  });

  it('expects a night that stood still again, by the clocks there', () => {
    const bare = unitOf(plain, []);
    /** A check of forty hours that stands still from 22 to 4 o'clock in Karachi, which is five hours ahead, read every hour. */
    const byNight = (unit: UnitState, name: string, from: number): UnitState => {
      let state = apply(unit, { kind: 'job-started', job: name, task: 'scrub', pool: 'p' }, at(from)) as UnitState;
      const { curve, likely } = passOfJob(state, state.jobs[name] as Job, {}) as DrivePass;
      let done = 0;
      for (let hour = 1; done < likely; hour++) {
        const there = (new Date(at(from + hour - 1)).getUTCHours() + 5) % 24;
        done += there >= 22 || there < 4 ? 0 : 3600;
        const share = Math.max(
          ...Array.from({ length: 100 }, (_, i) => (timeAt(curve, i / 100) <= done / likely ? i : 0)),
        );
        state = apply(state, { kind: 'job-progressed', job: name, percent: share }, at(from + hour)) as UnitState;
      }
      return apply(state, { kind: 'job-finished', job: name }, at(from + 100)) as UnitState;
    };
    const taught = byNight(byNight(bare, 'a', 0), 'b', 200);
    const kept = (taught.paces ?? []).flatMap(({ run }) => run ?? []);
    const there = kept.map((run) => ({ ...run, begun: new Date(Date.parse(run.begun) + 5 * 3_600_000).toISOString() }));
    const nights = (weights: readonly number[]): number =>
      weights.reduce((sum, weight, i) => sum + ((PATTERNS[i]?.depth ?? 0) > 0.9 ? weight : 0), 0);
    expect(kept).toHaveLength(2);
    expect(nights(hoursLearnt([]))).toBeCloseTo(0.12 + 14 * 0.0012, 9);
    expect(nights(hoursLearnt(there))).toBeGreaterThan(0.6);
    const at22 = (weights: readonly number[]): number =>
      weights.reduce((sum, weight, i) => sum + (PATTERNS[i]?.from === 22 ? weight : 0), 0);
    expect(at22(hoursLearnt(there))).toBeGreaterThan(5 * at22(hoursLearnt(kept)));
    expect(hoursLearnt(there).reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 9);

    // Asked at 19 o'clock there, in the first hour of the next: the night is taken off, where before hours of it were only possible.
    const next = apply(taught, { kind: 'job-started', job: 'n', task: 'scrub', pool: 'p' }, at(494)) as UnitState;
    const job = next.jobs['n'] as Job;
    const without = { ...next, paces: next.paces?.map(({ run: _run, ...pace }) => pace) ?? [] };
    const [learnt, plainly] = [next, without].map((unit) => {
      const seen = estimateOfJob(unit, job, { used: {}, zone: 'Asia/Karachi' }) as LiveEstimate;
      return (hoursOf(seen.high) - hoursOf(seen.low)) / (hoursOf(seen.likely) - 494);
    }) as [number, number];
    expect(learnt).toBeLessThan(plainly);
  });

  it('learns nothing of a run of which hardly anything was read, nor of one whose size nobody knows any more', () => {
    const begun = apply(
      unitOf(plain, []),
      { kind: 'job-started', job: 'a', task: 'scrub', pool: 'p' },
      at(0),
    ) as UnitState;
    const told = apply(begun, { kind: 'job-progressed', job: 'a', percent: 20 }, at(9)) as UnitState;
    expect((apply(told, { kind: 'job-finished', job: 'a' }, at(10)) as UnitState).paces).toBeUndefined();
    const { unit, job } = rebuilding(causeway);
    const half = { ...job, percent: 50, reports: [{ at: at(4), percent: 50 }] };
    expect(paceOfJob(unit, half)).toBeNull();
    expect(paceOfJob({ ...unit, profile: plain as unknown as Profile }, half)).not.toBeNull();
  });
});

describe('what is known beside the unit', () => {
  const slow = { media: 'hard-disk', slower: 3 };
  const hours = (unit: UnitState, job: Job, known: Partial<WorkKnown>): LiveEstimate =>
    estimateOfJob(unit, job, { used: {}, ...known }) as LiveEstimate;

  it('believes what other units of its family took, and nothing of another family or of drives of another kind', () => {
    const { unit, job } = rebuilding(plain);
    const alone = hours(unit, job, {});
    const taught = hours(unit, job, { taught: [{ unit: 'Other', family: 'plain', paces: [slow, slow] }] });
    expect(hoursOf(taught.likely) / hoursOf(alone.likely)).toBeGreaterThan(1.3);
    expect([taught.earlier, taught.earlierInFamily]).toEqual([0, 2]);
    for (const other of [
      { unit: 'Other', family: 'saltern', paces: [slow] },
      { unit: 'Other', family: 'plain', paces: [{ ...slow, media: 'ssd' }] },
      // What it took itself is in its own state.
      { unit: unit.name, family: 'plain', paces: [slow] },
    ])
      expect(hours(unit, job, { taught: [other] })).toEqual(alone);
  });

  it('takes office hours by the clocks people work by', () => {
    const { unit, job } = rebuilding(plain);
    // A Thursday at work: a crawl in office hours and full speed at night, as it is in Auckland, 13 hours ahead in January.
    const told = (ahead: number): Job => {
      const start = Date.parse('2026-01-01T08:00:00Z') - ahead * 3_600_000;
      const shares = Array.from({ length: 15 }, (_, h) => ({
        at: new Date(start + h * 3_600_000).toISOString(),
        percent: h <= 10 ? h : 10 + (h - 10) * 8,
      }));
      return { ...job, startedAt: shares[0]?.at ?? '', reports: shares };
    };
    const here = hours(unit, told(0), { zone: 'UTC' });
    const there = hours(unit, told(13), { zone: 'Pacific/Auckland' });
    for (const end of ['low', 'likely', 'high'] as const)
      expect(Date.parse(here[end]) - Date.parse(there[end])).toBe(13 * 3_600_000);
    // By the wrong clocks it is another estimate.
    expect(hours(unit, told(13), { zone: 'UTC' })).not.toEqual(there);
    expect(hours(unit, told(0), {})).toEqual(here);
  });
});

describe('taughtBy', () => {
  it('foretells the next run of units of families that are drawn: neither too far nor too sure', () => {
    const draw = chance();
    draw.begin(11);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - draw.next())) * Math.cos(2 * Math.PI * draw.next());
    const runsOf = (mean: number, count: number) =>
      Array.from({ length: count }, () => ({ media: 'hard-disk', slower: Math.exp(mean + 0.2 * normal()) }));
    for (const [own, others] of [
      [0, [1]],
      [0, [4, 1, 2]],
      [2, [3, 3, 3, 3]],
    ] as const) {
      const drawn = Array.from({ length: 20_000 }, () => {
        const family = 0.2 * normal();
        const unit = family + 0.18 * normal();
        const taught = taughtBy(
          runsOf(unit, own),
          'hard-disk',
          others.map((count) => runsOf(family + 0.18 * normal(), count)),
        );
        return { foretold: Math.log(taught.slower), next: unit + 0.2 * normal(), ...taught };
      });
      // By a general library: the next run on what was foretold of it goes one to one.
      const { m, b } = linearRegression(drawn.map(({ foretold, next }) => [foretold, next]));
      expect(m).toBeCloseTo(1, 1);
      expect(b).toBeCloseTo(0, 1);
      const off = standardDeviation(drawn.map(({ foretold, next }) => next - foretold));
      expect((drawn[0]?.spread ?? NaN) / (off / standardDeviation(drawn.map(({ next }) => next)))).toBeCloseTo(1, 1);
      expect([drawn[0]?.runs, drawn[0]?.family]).toEqual([own, others.reduce((sum, count) => sum + count, 0)]);
    }
  });

  it('is what units teach of their next run: the slope of one against the other, over many units that are drawn', () => {
    const draw = chance();
    draw.begin(7);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - draw.next())) * Math.cos(2 * Math.PI * draw.next());
    const pairs = Array.from({ length: 20_000 }, (): [number, number] => {
      const unit = 0.27 * normal();
      const first = [0, 0, 0].map(() => unit + 0.2 * normal());
      return [first.reduce((sum, one) => sum + one, 0) / 3, unit + 0.2 * normal()];
    });
    // By a general library, which knows nothing of variances.
    const { m } = linearRegression(pairs);
    const three = [1.5, 1.5, 1.5].map((slower) => ({ media: 'hard-disk', slower }));
    const { slower, spread, runs } = taughtBy(three, 'hard-disk');
    expect(Math.log(slower) / Math.log(1.5)).toBeCloseTo(m, 1);
    const off = standardDeviation(pairs.map(([first, next]) => next - m * first));
    expect(spread).toBeCloseTo(off / standardDeviation(pairs.map(([, next]) => next)), 1);
    expect(runs).toBe(3);
    expect(taughtBy(three, 'ssd')).toEqual({ slower: 1, spread: 1, runs: 0, family: 0 });
  });
});
