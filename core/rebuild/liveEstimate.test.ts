import { describe, expect, it } from '@jest/globals';
import { seeded } from '../value/seeded';
import type { Band } from '../layout/band';
import type { Profile } from '../platform/profile';
import type { ProgressReport } from '../unit/state';
import { estimateRebuild, type RebuildDrive } from './estimateRebuild';
import { keptOf } from './hoursLearnt';
import { liveEstimate, type LiveEstimate } from './liveEstimate';
import { progressRuns } from './progressRuns';
import { KINDS, testRun, type TestRun } from './testRuns';
import { fallingBy, timeAt, workCurve, type WorkCurve } from './workCurve';
import { onlyShape, workShapes } from './workShapes';

const START = '2026-01-01T00:00:00.000Z';
const HOUR = 3600;
const REBUILD = { ceilingBytesPerSecond: 1e9 } as Profile['rebuild'];
const disk = (bay: string, bytes = 8e12): [string, RebuildDrive] => [bay, { bay, bytes, media: 'hard-disk' }];
const band = (fromBytes: number, toBytes: number, members: string[]): Band => ({
  kind: 'parity',
  fromBytes,
  toBytes,
  members,
  redundancy: 1,
  usableBytes: (members.length - 1) * (toBytes - fromBytes),
});
const three = new Map([disk('a'), disk('b'), disk('c')]);
const curve = workCurve([band(0, 8e12, ['a', 'b', 'c'])], three, REBUILD, 'a');
const shapes = workShapes([band(0, 8e12, ['a', 'b', 'c'])], three, REBUILD, 'a');
const at = (seconds: number): string => new Date(Date.parse(START) + seconds * 1000).toISOString();
const secondsOf = (time: string): number => (Date.parse(time) - Date.parse(START)) / 1000;

/** Percent shown after a share of the full-speed time. */
function percentAt(of: WorkCurve, time: number): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (timeAt(of, middle) < time) low = middle;
    else high = middle;
  }
  return low * 100;
}

describe('workCurve', () => {
  it('is the field’s closed form for one disk: v(x) = v0 √(1 − x(1 − s²)), so that x of the bytes take (1 − √(1 − ¾x))/½ of the time at s = 0.5', () => {
    for (const x of [0.1, 0.3, 0.5, 0.9]) expect(timeAt(curve, x)).toBeCloseTo((1 - Math.sqrt(1 - 0.75 * x)) / 0.5, 4);
    // A full pass takes 2C/(v0(1 + s)).
    expect(curve.seconds).toBeCloseTo((2 * 8e12) / (220e6 * 1.5), -1);
  });

  it('falls besides by a share of itself: as the times add up, step by step', () => {
    const fallen = fallingBy(curve, 0.5);
    let [seconds, half] = [0, 0];
    for (let i = 0; i < 100_000; i++) {
      const x = (i + 0.5) / 100_000;
      seconds += (curve.seconds * (timeAt(curve, x + 5e-6) - timeAt(curve, x - 5e-6))) / (1 - 0.5 * x);
      if (x < 0.5) half = seconds;
    }
    expect(fallen.seconds / seconds).toBeCloseTo(1, 4);
    expect(timeAt(fallen, 0.5)).toBeCloseTo(half / seconds, 4);
    expect(fallingBy(curve, 0).seconds).toBeCloseTo(curve.seconds, 6);
  });

  it('walks the bands from the lowest, and takes groups side by side as one', () => {
    const drives = new Map([disk('a', 12e12), disk('b', 12e12), disk('c', 6e12)]);
    const two = workCurve([band(6e12, 12e12, ['a', 'b']), band(0, 6e12, ['a', 'b', 'c'])], drives, REBUILD, 'a');
    expect(two.bandEnds).toEqual([0.5, 1]);
    const groups = ['a', 'd'].map((first) => band(0, 8e12, [first, `${first}2`]));
    const all = new Map(['a', 'a2', 'd', 'd2'].map((bay) => disk(bay)));
    expect(workCurve(groups, all, REBUILD).seconds).toBeCloseTo(curve.seconds, -1);
  });
});

const askOf = (run: TestRun): LiveEstimate => {
  const { likely } = estimateRebuild(run.bands, run.drives, 'a', run.rebuild);
  return liveEstimate(workShapes(run.bands, run.drives, run.rebuild, 'a'), run.startedAt, run.reports, { likely });
};

describe('liveEstimate on runs whose end is known', () => {
  const RUNS = 60;
  const FIRST = 50_001;

  /** What nothing shows yet when it is asked: a night that has not come, a stall that nobody knows the end of. */
  const HARD: readonly string[] = ['pauses by night', 'stalled when asked', 'stalled when asked, read rarely'];

  // Of 60 spans that hold four in five, 37 to 58 do in all but one of a hundred such tests; 100 a kind and quarter stand in the decision.
  it.each(KINDS)('holds four of five, and calls nothing stalled that goes on: %s', (kind) => {
    const runs = Array.from({ length: RUNS }, (_, i) => testRun(kind, FIRST + i)).filter(
      ({ reports }) => reports.length > 0,
    );
    const seen = runs.map((run) => ({ run, ...askOf(run) }));
    const held = seen.filter(({ run, low, high }) => Date.parse(low) <= run.end && run.end <= Date.parse(high));
    expect(runs.length).toBeGreaterThan(RUNS - 5);
    expect(held.length / runs.length).toBeGreaterThan(HARD.includes(kind) ? 0.5 : 0.62);
    // What goes exactly as reckoned is held more often than it is said, for what may come besides; above that nothing would be said.
    expect(held.length / runs.length).toBeLessThanOrEqual(kind === 'limited by the unit' ? 1 : 0.99);
    const stalled = seen.filter(({ found }) => found.includes('stalled')).length;
    if (kind === 'stalled when asked') expect(stalled).toBeGreaterThan(RUNS / 2);
    else if (!HARD.includes(kind)) expect(stalled).toBeLessThanOrEqual(1);
  });

  it.each([
    [0.05, 0.25],
    [0.25, 0.5],
    [0.5, 0.75],
    [0.75, 0.97],
  ])('holds four of five, whenever it is asked: from %d to %d done', (from, to) => {
    for (const kind of ['real drives', 'flash', 'small drives', 'office hours'] as const) {
      const runs = Array.from({ length: RUNS }, (_, i) => testRun(kind, FIRST + 500 + i, [from, to]));
      const held = runs.filter((run) => {
        const { low, high } = askOf(run);
        return Date.parse(low) <= run.end && run.end <= Date.parse(high);
      });
      expect([kind, held.length / RUNS > 0.65]).toEqual([kind, true]);
    }
  });

  it.each(['pauses by night', 'fast weekends', 'office hours'] as const)(
    'holds four of five where the unit had such a run before: %s',
    (kind) => {
      const held = Array.from({ length: RUNS }, (_, i) => {
        const run = testRun(kind, FIRST + 900 + i, [0.1, 0.9], i);
        // An earlier run of the same unit, with the same hours, read to its end.
        const before = testRun(kind, FIRST + 2900 + i, [0.97, 1], i);
        const read = progressRuns(curve, before.startedAt, before.reports, false).at(-1);
        const kept = read ? keptOf(workCurve(before.bands, before.drives, before.rebuild, 'a'), read) : null;
        const { likely } = estimateRebuild(run.bands, run.drives, 'a', run.rebuild);
        const shapes = workShapes(run.bands, run.drives, run.rebuild, 'a');
        const { low, high } = liveEstimate(shapes, run.startedAt, run.reports, { likely, kept: kept ? [kept] : [] });
        return Date.parse(low) <= run.end && run.end <= Date.parse(high);
      }).filter(Boolean);
      // Without what was learnt the first two are held by 70 of 100, of 60 by 35 to 49.
      expect(held.length / RUNS).toBeGreaterThan(0.72);
    },
  );

  it('is off at about 30 % by at most half of what a straight line is off', () => {
    let [own, line, count] = [0, 0, 0];
    for (let seed = FIRST; seed < FIRST + 300; seed++) {
      const run = testRun('as reckoned', seed);
      const last = run.reports.at(-1);
      if (!last || last.percent < 25 || last.percent > 40) continue;
      const [start, now] = [run.startedAt, last.at].map((at) => Date.parse(at)) as [number, number];
      own += Math.abs(Date.parse(askOf(run).likely) - run.end);
      line += Math.abs(start + ((now - start) / last.percent) * 100 - run.end);
      count++;
    }
    expect(count).toBeGreaterThan(30);
    expect(own / line).toBeLessThan(1 / 2);
  });

  it('finds out that the unit itself is the limit: 4 × 8 TB at a steady 70 MB/s end after 31.8 h', () => {
    const names = ['a', 'b', 'c', 'd'];
    const drives = new Map(names.map((bay) => disk(bay)));
    const bands = [band(0, 8e12, names)];
    const { likely } = estimateRebuild(bands, drives, 'a', REBUILD);
    const reports = [1, 4, 8, 12, 16].map((hour) => ({
      at: at(hour * HOUR),
      percent: Math.floor((hour * HOUR * 70e6 * 100) / 8e12),
    }));
    const {
      low,
      likely: middle,
      high,
    } = liveEstimate(workShapes(bands, drives, REBUILD, 'a'), START, reports, { likely });
    const end = 8e12 / 70e6;
    expect(secondsOf(low)).toBeLessThan(end);
    expect(secondsOf(high)).toBeGreaterThan(end);
    expect(Math.abs(secondsOf(middle) - end)).toBeLessThan(0.06 * end);
  });
});

describe('liveEstimate', () => {
  it('is a date with a span whatever is reported: a second after it began, or at a hair of a percent after a year', () => {
    const steady: WorkCurve = { kind: 'work-curve', seconds: 0, shares: [0, 1], times: [0, 1], bandEnds: [1] };
    const start = Date.parse('2026-01-01T00:00:00Z');
    for (const ms of [1, 500, 2000, 60_000, 3600e3, 365 * 86_400e3])
      for (const percent of [0.01, 1, 50, 97, 100]) {
        const likely = ((ms / 1000 / percent) * 100) as number;
        const seen = liveEstimate(
          onlyShape(steady),
          new Date(start).toISOString(),
          [{ at: new Date(start + ms).toISOString(), percent }],
          { likely },
        );
        expect([
          ms,
          percent,
          seen.low <= seen.likely && seen.likely <= seen.high,
          Number.isNaN(Date.parse(seen.high)),
        ]).toEqual([ms, percent, true, false]);
      }
  });

  it('is a span whatever is sent: out of order, at one moment, of bands that are not there, at the ends of time', () => {
    const random = seeded(7);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
    const moments = [
      ...['0001-01-01T00:00:00.000Z', '2025-12-31T23:00:00.000Z', START, at(1), at(3600), at(7200), at(86_400)],
      '9999-12-31T23:00:00.000Z',
    ];
    const drives = new Map([disk('a', 12e12), disk('b', 12e12), disk('c', 6e12)]);
    const two = [band(0, 6e12, ['a', 'b', 'c']), band(6e12, 12e12, ['a', 'b'])];
    for (let i = 0; i < 300; i++) {
      const reports = Array.from({ length: Math.floor(random() * 6) }, (): ProgressReport => ({
        at: pick(moments),
        percent: pick([0, 0.01, 1, 33, 99.99, 100]),
        ...(random() < 0.3 ? { band: pick([1, 2, 9]) } : {}),
      }));
      const started = pick(moments.slice(1, 5));
      const of = pick([workShapes(two, drives, REBUILD, 'a'), shapes, onlyShape(workCurve([], new Map(), REBUILD))]);
      const { low, likely, high, progress } = liveEstimate(of, started, reports, {
        likely: pick([0, 1, 50_000, 1e9]),
        countsEachBand: random() < 0.5,
      });
      expect([reports, low <= likely && likely <= high, progress >= 0 && progress <= 1]).toEqual([reports, true, true]);
    }
  });

  const likely = curve.seconds / 0.7;
  const steady = (share: number, hours: readonly number[]): ProgressReport[] =>
    hours.map((hour) => ({
      at: at(hour * HOUR),
      percent: Math.floor(percentAt(curve, (share * hour * HOUR) / curve.seconds)),
    }));
  const width = ({ low, high }: LiveEstimate): number => secondsOf(high) - secondsOf(low);

  it('begins with what was expected, and narrows as it hears more', () => {
    const none = liveEstimate(shapes, START, [], { likely });
    expect(Math.abs(secondsOf(none.likely) - likely)).toBeLessThan(0.15 * likely);
    const hours = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
    const widths = [0, 2, 5, 10].map((count) =>
      width(liveEstimate(shapes, START, steady(0.7, hours.slice(0, count)), { likely })),
    );
    expect(widths).toEqual([...widths].sort((a, b) => b - a));
    const late = liveEstimate(shapes, START, steady(0.5, hours), { likely });
    expect(Math.abs(secondsOf(late.likely) - curve.seconds / 0.5)).toBeLessThan(0.05 * (curve.seconds / 0.5));
    expect(late.found).toEqual([]);
  });

  it('is done when it says 100 %', () => {
    const done = liveEstimate(shapes, START, [{ at: at(9 * HOUR), percent: 100 }], { likely });
    expect([done.progress, done.low, done.high]).toEqual([1, at(9 * HOUR), at(9 * HOUR)]);
  });

  it('notices that it stands still, but not that it is merely read often', () => {
    const reports = steady(0.7, [1, 2, 3]);
    const stuck = [4, 5, 6].map((hour) => ({ at: at(hour * HOUR), percent: reports.at(-1)?.percent ?? 0 }));
    expect(liveEstimate(shapes, START, [...reports, ...stuck], { likely }).found).toEqual(['stalled']);
    // Whatever else is thought: ten hours at 39 %, of a unit that took an hour at most for a percent.
    const slow = Array.from({ length: 39 }, (_, i) => ({ at: at((i + 1) * HOUR), percent: i + 1 }));
    const ten = Array.from({ length: 10 }, (_, i) => ({ at: at((40 + i) * HOUR), percent: 39 }));
    const { found, high } = liveEstimate(shapes, START, [...slow, ...ten], { likely: 100 * HOUR });
    expect(found).toContain('stalled');
    // How long it stands still nobody knows: the longer it has, the longer it may.
    const shorter = liveEstimate(shapes, START, [...slow, ...ten.slice(0, 5)], { likely: 100 * HOUR });
    expect(secondsOf(high) - 49 * HOUR).toBeGreaterThan(secondsOf(shorter.high) - 44 * HOUR);
    const often = [3.02, 3.04].map((hour) => ({ at: at(hour * HOUR), percent: reports.at(-1)?.percent ?? 0 }));
    expect(liveEstimate(shapes, START, [...reports, ...often], { likely }).found).toEqual([]);
  });

  it('notices a new beginning and starts counting there, with the speed it has learnt', () => {
    const reports = [...steady(0.5, [1, 2, 3, 4]), { at: at(5 * HOUR), percent: 2 }];
    const again = liveEstimate(shapes, START, reports, { likely });
    expect(again.found).toEqual(['restarted']);
    expect(again.progress).toBeCloseTo(0.02, 2);
    const truth = 5 * HOUR + (curve.seconds * (1 - timeAt(curve, 0.02))) / 0.5;
    expect(Math.abs(secondsOf(again.likely) - truth)).toBeLessThan(0.1 * truth);
    // A correction by a point is none.
    expect(
      liveEstimate(shapes, START, [...steady(0.5, [1, 2]), { at: at(2.1 * HOUR), percent: 15 }], { likely }).found,
    ).not.toContain('stalled');
  });

  it('notices that it goes slower than it did, and goes by the slower speed', () => {
    const fast = steady(0.8, [1, 2, 3]);
    const done = timeAt(curve, (fast.at(-1)?.percent ?? 0) / 100);
    const slow = [4, 5, 6, 7, 8, 9, 10].map((hour) => ({
      at: at(hour * HOUR),
      percent: Math.floor(percentAt(curve, done + (0.2 * (hour - 3) * HOUR) / curve.seconds)),
    }));
    const estimate = liveEstimate(shapes, START, [...fast, ...slow], { likely });
    expect(estimate.found).toEqual(['slowed']);
    const truth = 3 * HOUR + ((1 - done) * curve.seconds) / 0.2;
    expect(Math.abs(secondsOf(estimate.likely) - truth)).toBeLessThan(0.25 * truth);
  });

  it('knows which band a family counts that begins at 0 again for each', () => {
    const drives = new Map([disk('a', 12e12), disk('b', 12e12), disk('c', 6e12)]);
    const two = workShapes([band(0, 6e12, ['a', 'b', 'c']), band(6e12, 12e12, ['a', 'b'])], drives, REBUILD, 'a');
    const seconds = two[0]?.curve.seconds ?? 0;
    const hours = [3.4, 9.7, 11];
    const reports = [40, 97, 10].map((percent, i) => ({ at: at((hours[i] as number) * HOUR), percent }));
    const counted = liveEstimate(two, START, reports, { likely: seconds, countsEachBand: true });
    expect([counted.found, Math.round(counted.progress * 100)]).toEqual([[], 55]);
    expect(liveEstimate(two, START, reports, { likely: seconds }).found).toEqual(['restarted']);
    const named = liveEstimate(two, START, [{ at: at(4 * HOUR), percent: 10, band: 2 }], {
      likely: seconds,
      countsEachBand: true,
    });
    expect(Math.round(named.progress * 100)).toBe(55);
  });
});
