import type { ProgressReport } from '../unit/state';
import { normalCdf } from '../value/normalCdf';
import { aheadOfUtc, isTimeZone } from '../quantity/timeZone';
import { takenShare, workedSeconds, type DayPattern } from './dayPattern';
import { hoursLearnt } from './hoursLearnt';
import { LOADS, PATTERNS } from './thoughtOf';
import type { RunKept } from './paces';
import { type Belief, changed, firstBelief, heard, later, type Load, paused, type Step, walk } from './progressFilter';
import { type ProgressRun, progressRuns, type Reading } from './progressRuns';
import { timeAt, type WorkCurve } from './workCurve';
import type { WorkShape } from './workShapes';

/** What is thought of work before anything is heard of it. */
export interface Expected {
  /** Seconds it takes in all, likely. */
  readonly likely: number;
  /** A family that counts each band from 0 to 100. */
  readonly countsEachBand?: boolean;
  /** How many earlier runs of the unit taught it, and of others of its family. */
  readonly earlier?: number;
  readonly earlierInFamily?: number;
  /** The time zone office hours are in; UTC where left out. */
  readonly zone?: string;
  /** How the unit's own earlier runs went: at what hours it stood still or was slow. */
  readonly kept?: readonly RunKept[];
}

export type Finding = 'stalled' | 'slowed' | 'restarted';

/** When work will be done, from what was read of it. */
export interface LiveEstimate {
  readonly kind: 'live-estimate';
  /** Share of the work that is done, 0..1, over all bands. */
  readonly progress: number;
  /** When it is done: the likely moment, and the span that holds the truth four times out of five. ISO 8601. */
  readonly low: string;
  readonly likely: string;
  readonly high: string;
  /** What is odd: it stands still, goes slower than it did, began anew. */
  readonly found: readonly Finding[];
  /** How many reports it rests on, and how many earlier runs of the unit, and of others of its family. */
  readonly reports: number;
  readonly earlier: number;
  readonly earlierInFamily: number;
}

/** A rare shape at rare hours is not thought of. */
const RARE = 0.001;
/** A change for good: how likely, at how many moments it is looked for, in how many ways the work may go. */
const CHANGE = { chance: 0.1, moments: 8, ways: 3 } as const;
/** What may still come that nothing yet shows, as a standard deviation of what is done: of all of the work, and of what is left of it. */
const UNSEEN = { all: 0.003, left: 0.035 } as const;
/** A pause that is over: how likely, and at how many of the slowest readings it is looked for. */
const PAUSE = { chance: 0.15, readings: 3 } as const;
/** Beliefs less likely than this beside the likeliest are dropped: e to the power of it. */
const FORGOTTEN = -9;
/** More readings of a run than this teach no more. */
const MOST_READINGS = 120;
/** So much is to have been passed before the readings say how fast the load's share is counted from. */
const LEAST_PASSED = 0.03;
/** Standing still is called so when this share ought to have been passed, and hardly by chance was not. */
const STALLED = { share: 0.03, chance: 0.01 } as const;
/** So many times the longest it ever stood at one figure, of so many, is a stall: where it is not likely besides that it goes on unseen. */
const LONG = { times: 3, gaps: 3 } as const;
/** What has stood still for a while goes on after about as long again, or much sooner, or much later: as many moments are thought of. */
const RESUMES = 12;
const SOONER = 0.5;
/** Slower than this share of the speed before counts as slowed down, when it is believed this far. */
const SLOWED = { share: 0.7, belief: 0.5 } as const;
/** One in ten ends before the span, one in ten after it. */
const [LOW, LIKELY, HIGH] = [0.1, 0.5, 0.9];
/** An end further off than so many times what was expected is not looked for. */
const MOST_FAR = 1000;
/** The last moment that is written with a year of four figures, by which times are compared as text. */
const END_OF_TIME = Date.UTC(9999, 11, 31, 23, 59, 59, 999);

/** One way it may be, with what it makes of the readings. */
interface Thought {
  readonly curve: WorkCurve;
  readonly load: Load;
  readonly pattern: DayPattern;
  readonly steps: readonly Step[];
  readonly first: Belief;
  /** Log of how far it was believed before anything was read. */
  readonly prior: number;
  readonly belief: Belief;
  /** Log of how far it is believed. */
  readonly log: number;
  /** What the rate became, as a share of what it was, where it changed. */
  readonly change: number | null;
}

/**
 * When running work will be done, from what was read of it. Many ways it may go are held side by side: the shape of the
 * work × other load on the unit × hours of use × a change for good. Each is a Kalman filter over work done and its rate,
 * believed as far as it foretold what was read (Bayesian model averaging: Hoeting, Madigan, Raftery, Volinsky, Statistical
 * Science 14, 1999); the span is that of all of them together.
 *
 * @param shapes the ways the speed may change on the way; the first is the one reckoned with, which tells the progress
 * @param startedAt when the latest run began, ISO 8601, as all times; reports before it are of earlier runs
 * @param reports in any order
 */
export function liveEstimate(
  shapes: readonly WorkShape[],
  startedAt: string,
  reports: readonly ProgressReport[],
  expected: Expected,
): LiveEstimate {
  const { zone, kept = [] } = expected;
  // A browser may be older than the zone.
  const aheadAt = (at: string): number =>
    zone === undefined || !isTimeZone(zone) ? 0 : aheadOfUtc(zone, Date.parse(at));
  // By the clocks there, where office hours are; a change of the clocks meanwhile is let be.
  const weights = hoursLearnt(kept.map((run) => ({ ...run, begun: moved(run.begun, aheadAt(run.begun)) })));
  const ahead = aheadAt(startedAt);
  if (ahead === 0) return estimateThere(shapes, startedAt, reports, expected, weights);
  const there = reports.map((report) => ({ ...report, at: moved(report.at, ahead) }));
  const { low, likely, high, ...rest } = estimateThere(shapes, moved(startedAt, ahead), there, expected, weights);
  return Object.freeze({
    ...rest,
    low: moved(low, -ahead),
    likely: moved(likely, -ahead),
    high: moved(high, -ahead),
  });
}

function moved(at: string, ms: number): string {
  return new Date(Math.min(END_OF_TIME, Date.parse(at) + ms)).toISOString();
}

function estimateThere(
  shapes: readonly WorkShape[],
  startedAt: string,
  reports: readonly ProgressReport[],
  { likely, countsEachBand = false, earlier = 0, earlierInFamily = 0 }: Expected,
  weights: readonly number[],
): LiveEstimate {
  const restsOn = { reports: reports.length, earlier, earlierInFamily };
  const reckoned = (shapes[0] as WorkShape).curve;
  const runs = progressRuns(reckoned, startedAt, reports, countsEachBand).map(thinned);
  const last = runs.at(-1) as ProgressRun;
  const found: Finding[] = runs.length > 1 ? ['restarted'] : [];
  const expected = Math.max(1e-3, likely);
  const from = last.readings.at(-1)?.at ?? last.begun ?? last.heard;
  if (last.said >= 1) return estimate(last, () => 1, expected, found, restsOn);

  const steady = thoughtsOf(shapes, runs, expected, weights);
  let thoughts = pruned([...steady, ...changesOf(steady, runs)]);
  const slower = thoughts.reduce(
    (sum, { change, log }) => sum + (change !== null && change < SLOWED.share ? Math.exp(log) : 0),
    0,
  );
  if (slower > SLOWED.belief) found.push('slowed');
  const { still } = last;
  if (!still) return estimate(last, ended(thoughts, from), expected, found, restsOn);
  if (isStalled(thoughts, from, last)) {
    found.push('stalled');
    // What stands still has done nothing since.
    return estimate(last, resumed(ended(thoughts, still.at), still.at - from), expected, found, restsOn);
  }
  thoughts = pruned(thoughts.map((thought) => heardStill(thought, from, still)));
  return estimate(last, ended(thoughts, still.at), expected, found, restsOn);
}

/** A thought after a report that showed the same figure again. */
function heardStill(thought: Thought, from: number, { at, share, spread }: Reading): Thought {
  const { belief, load, pattern, log, curve } = thought;
  const seconds = workedSeconds(from, at, pattern);
  const next = heard(later(belief, seconds, load), stepOf(curve, { at, share, spread }, seconds), load);
  return { ...thought, belief: next.belief, log: log + next.log };
}

function estimate(
  run: ProgressRun,
  chance: (at: number) => number,
  expected: number,
  found: readonly Finding[],
  restsOn: Pick<LiveEstimate, 'reports' | 'earlier' | 'earlierInFamily'>,
): LiveEstimate {
  const at = (quantile: number): string =>
    new Date(Math.min(END_OF_TIME, momentOf(chance, quantile, run.heard, expected))).toISOString();
  const [low, middle, high] = [at(LOW), at(LIKELY), at(HIGH)];
  return Object.freeze({
    kind: 'live-estimate',
    progress: run.said,
    low,
    likely: middle,
    high,
    found: Object.freeze(found),
    ...restsOn,
  });
}

/** So many readings that more would not teach more. */
function thinned(run: ProgressRun): ProgressRun {
  const { readings } = run;
  if (readings.length <= MOST_READINGS) return run;
  const each = Math.ceil(readings.length / MOST_READINGS);
  return { ...run, readings: readings.filter((_, i) => i % each === 0 || i === readings.length - 1) };
}

/** Every shape with every load and every pattern of hours, and what each makes of the readings. */
function thoughtsOf(
  shapes: readonly WorkShape[],
  runs: readonly ProgressRun[],
  expected: number,
  weights: readonly number[],
): Thought[] {
  return shapes.flatMap((shape) =>
    PATTERNS.flatMap((pattern, i) => {
      const commonDay = weights[i] as number;
      if (commonDay * shape.weight < RARE) return [];
      // What was expected is the mean of a week: where people take their share by day, nights are faster.
      const rate = 1 / (expected * shape.slower * (1 - takenShare(pattern)));
      const steps = stepsOf(shape.curve, runs, pattern);
      const pace = paceOf(steps, rate);
      return LOADS.map(({ share, lasts, weight }): Thought => {
        const load = { spread: share * pace, lasts };
        const first = firstBelief(rate, shape.spread * rate, load);
        const prior = Math.log(shape.weight * commonDay * weight);
        const { belief, log } = walk(first, steps, load);
        return { curve: shape.curve, load, pattern, steps, first, prior, belief, log: prior + log, change: null };
      });
    }),
  );
}

/**
 * The likeliest ways the work may go once more, with a change for good at some moment of the last run, or with a pause before one
 * of its slowest readings. Under every load: before that is thought of, only a heavy one explains what was read.
 */
function changesOf(thoughts: readonly Thought[], runs: readonly ProgressRun[]): Thought[] {
  const readings = runs.at(-1)?.readings.length ?? 0;
  // One reading before and one after are the least that could tell.
  const count = Math.min(CHANGE.moments, readings - 1);
  const moments = Array.from({ length: Math.max(0, count) }, (_, i) => Math.floor(((i + 1) * readings) / (count + 1)));
  const ways = [...thoughts].sort((a, b) => b.log - a.log).map(({ steps }) => steps);
  const chosen = new Set([...new Set([thoughts[0]?.steps, ...ways])].slice(0, CHANGE.ways));
  const pauses = new Map([...chosen].map((steps) => [steps, steps ? slowestOf(steps, readings) : []]));
  return thoughts
    .filter(({ steps }) => chosen.has(steps))
    .flatMap((thought) => [
      ...moments.map((moment): Thought => {
        const { steps, load, first, prior } = thought;
        const at = steps.length - readings + Math.max(1, moment);
        const before = walk(first, steps.slice(0, at), load);
        const after = walk(changed(before.belief, load), steps.slice(at), load);
        return {
          ...thought,
          belief: after.belief,
          log: prior + before.log + after.log + Math.log(CHANGE.chance / count),
          change: after.belief.rate / before.belief.rate,
        };
      }),
      ...(pauses.get(thought.steps) ?? []).map((at): Thought => {
        const { steps, load, first, prior } = thought;
        const before = walk(first, steps.slice(0, at), load);
        const over = paused(before.belief, steps[at] as Step, load);
        const after = walk(over.belief, steps.slice(at + 1), load);
        const log = prior + before.log + over.log + after.log + Math.log(PAUSE.chance / readings);
        return { ...thought, belief: after.belief, log };
      }),
    ]);
}

/** The steps of the last run that came least far in their time, by their numbers. */
function slowestOf(steps: readonly Step[], readings: number): number[] {
  const paceOf = (i: number): number => ((steps[i]?.done ?? 0) - (steps[i - 1]?.done ?? 0)) / (steps[i]?.seconds ?? 1);
  return Array.from({ length: readings }, (_, i) => steps.length - readings + i)
    .filter((i) => i > 0 && steps[i]?.begins !== true && (steps[i]?.seconds ?? 0) > 0)
    .sort((a, b) => paceOf(a) - paceOf(b))
    .slice(0, PAUSE.readings);
}

/** The readings in the terms of a curve and of a pattern of the day. */
function stepsOf(curve: WorkCurve, runs: readonly ProgressRun[], pattern: DayPattern): Step[] {
  return runs.flatMap(({ begun, readings }) => {
    let before = begun;
    const begins: Step[] = begun === null ? [] : [{ seconds: 0, done: 0, spread: 0, logSlope: 0, begins: true }];
    return [
      ...begins,
      ...readings.map((reading): Step => {
        const seconds = before === null ? null : workedSeconds(before, reading.at, pattern);
        before = reading.at;
        return stepOf(curve, reading, seconds);
      }),
    ];
  });
}

function stepOf(curve: WorkCurve, { share, spread }: Reading, seconds: number | null): Step {
  const [low, high] = [timeAt(curve, share - spread), timeAt(curve, share + spread)];
  const slope = (high - low) / (Math.min(1, share + spread) - Math.max(0, share - spread));
  return {
    seconds: seconds ?? 0,
    done: timeAt(curve, share),
    spread: Math.max(1e-6, slope * spread),
    logSlope: Math.log(slope),
    ...(seconds === null ? { begins: true } : {}),
  };
}

/** How fast it went over all that was read; as expected as long as hardly anything was passed. */
function paceOf(steps: readonly Step[], rate: number): number {
  let [passed, seconds, before] = [0, 0, 0];
  for (const step of steps) {
    if (!step.begins) {
      passed += Math.max(0, step.done - before);
      seconds += step.seconds;
    }
    before = step.done;
  }
  return (passed + LEAST_PASSED) / (seconds + LEAST_PASSED / rate);
}

/** Those that are believed at all, their shares of belief making 1. */
function pruned(thoughts: readonly Thought[]): Thought[] {
  const best = Math.max(...thoughts.map(({ log }) => log));
  const left = thoughts.filter(({ log }) => log >= best + FORGOTTEN);
  const all = best + Math.log(left.reduce((sum, { log }) => sum + Math.exp(log - best), 0));
  return left.map((thought) => ({ ...thought, log: thought.log - all }));
}

/** The chance that so much is done by a moment, when nothing is read after `from`. */
function chanceDone(
  thoughts: readonly Thought[],
  from: number,
  at: number,
  done: (curve: WorkCurve) => number,
  unseen = { all: 0, left: 0 },
): number {
  let sum = 0;
  for (const { belief, pattern, load, log, curve } of thoughts) {
    const { done: mean, dd } = later(belief, Math.max(0, workedSeconds(from, at, pattern)), load);
    const more = unseen.all + unseen.left * Math.max(0, 1 - belief.done);
    sum += Math.exp(log) * normalCdf((mean - done(curve)) / Math.sqrt(Math.max(1e-18, dd + more ** 2)));
  }
  return sum;
}

/** The chance that all is done by a moment, counted from one at which it was read. */
function ended(thoughts: readonly Thought[], from: number): (at: number) => number {
  return (at) => chanceDone(thoughts, from, at, () => 1, UNSEEN);
}

/**
 * The chance where work goes on only once what holds it up is over. Nobody knows when: after a stall that was met at any moment
 * of it, as likely before as after as long again, one in ten after nine times as long (Gott, Nature 363, 1993).
 *
 * @param stood milliseconds it has stood still for
 */
function resumed(chance: (at: number) => number, stood: number): (at: number) => number {
  const waits = Array.from({ length: RESUMES }, (_, i) => {
    const share = (i + 0.5) / RESUMES;
    return (SOONER * stood * share) / (1 - share);
  });
  return (at) => waits.reduce((sum, wait) => sum + chance(at - wait), 0) / RESUMES;
}

/**
 * Much more ought to be done by now than is shown, and hardly by chance it is not; or it has stood at one figure several times
 * longer than ever before, whatever else is thought.
 */
function isStalled(thoughts: readonly Thought[], from: number, run: ProgressRun): boolean {
  // It may be anywhere up to the next figure.
  const next = run.said + run.step - 0.01;
  const short = (share: number): number =>
    1 - chanceDone(thoughts, from, run.heard, (curve) => timeAt(curve, Math.min(1, next + share)));
  if (short(STALLED.share) < 0.5 && short(0.01) < STALLED.chance) return true;
  const { gaps } = run;
  return gaps.length >= LONG.gaps && run.heard - from > LONG.times * Math.max(...gaps);
}

/** The moment by which the chance is so high: bracketed, then halved. */
function momentOf(chance: (at: number) => number, quantile: number, from: number, expected: number): number {
  if (chance(from) >= quantile) return from;
  let [low, high] = [0, expected * 1000];
  while (chance(from + high) < quantile && high < expected * 1000 * MOST_FAR) high *= 2;
  for (let i = 0; i < 60 && high - low > 500; i++) {
    const middle = (low + high) / 2;
    if (chance(from + middle) >= quantile) high = middle;
    else low = middle;
  }
  return from + high;
}
