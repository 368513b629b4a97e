import type { ProgressReport } from '../unit/state';
import { timeAt, type WorkCurve } from './workCurve';

/** What is thought of a rebuild before anything is heard of it. */
export interface Expected {
  /** Seconds it takes in all, likely. */
  readonly likely: number;
  /** A family that counts each band from 0 to 100. */
  readonly countsEachBand?: boolean;
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
  /** How many reports it rests on. */
  readonly reports: number;
}

/** Spread of the log of the speed before anything is heard: left alone to heavy use is a factor of three (common practice). */
const PRIOR_SPREAD = 0.5;
/** The same once a first run has told the speed and it begins anew. */
const KNOWN_SPREAD = 0.3;
/** Relative variance of the progress times its duration, seconds, and how many observations that belief is worth. */
const PRIOR_WANDER = { seconds: 60, weight: 2 } as const;
/** Increments shorter than these are taken together: a load on the unit lasts, and short looks would not see it wander. */
const BLOCKS_SECONDS = [1800, 7200, 14400] as const;
const BLOCK_SECONDS = BLOCKS_SECONDS[0];
/** Nothing is steadier than this. */
const LEAST_WANDER = 5;
/** A unit shows whole percents: half of one is not known, evenly spread. */
const ROUNDING = 0.01 / Math.sqrt(12);
/** Normal quantile of nine in ten: the span holds four of five. */
const QUANTILE = 1.2816;
/** A span of seconds has no bounds that mean anything: it is never wider than from a thousandth to a thousand times. */
const MOST_FAR = Math.log(1000);
/** The last moment that is written with a year of four figures, by which times are compared as text. */
const END_OF_TIME = Date.UTC(9999, 11, 31, 23, 59, 59, 999);
/** Falls of more than this many points are a new beginning, not a correction. */
const RESTART_POINTS = 1;
/** Standing still is called so when this many points ought to have been passed, and by chance alone hardly could not. */
const STALL_POINTS = 3;
const SIGNIFICANT = 3;
/** Slower than this share of the speed before counts as slowed down. */
const SLOWED_SHARE = 0.6;

/** A report as a point: seconds since it began, full-speed seconds of work done. */
interface Point {
  readonly t: number;
  readonly u: number;
  readonly percent: number;
}

/**
 * When running work will be done. Reports of (time, percent) become work done under the curve of the drives; work done
 * wanders around a steady rate like a random walk with drift, whose rate and wander are learnt from the reports and, as
 * long as there are few, from what was expected. The span narrows as less is left and more is known (gamma-normal
 * updating and the predictive variance of a drifted random walk; common practice).
 *
 * @param startedAt ISO 8601, as all times
 * @param reports oldest first
 */
export function liveEstimate(
  curve: WorkCurve,
  startedAt: string,
  reports: readonly ProgressReport[],
  expected: Expected,
): LiveEstimate {
  const full = curve.seconds > 0 ? curve.seconds : expected.likely;
  const { points, found: began, previousRate } = pointsOf(curve, full, startedAt, reports, expected);
  const found: Finding[] = [...began];
  const prior = {
    logRate: Math.log(previousRate ?? full / expected.likely),
    spread: previousRate === undefined ? PRIOR_SPREAD : KNOWN_SPREAD,
  };
  const stall = lastMoving(points);
  const moving = points.slice(0, stall + 1);
  let fit = fitRate(moving, full, prior);
  const slowed = slowedFrom(moving, fit, full);
  if (slowed !== null) {
    found.push('slowed');
    fit = fitRate(moving.slice(slowed), full, { logRate: fit.logRate, spread: PRIOR_SPREAD });
  }
  const last = points.at(-1) as Point;
  const stood = last.t - (points[stall] as Point).t;
  const passed = (Math.exp(fit.logRate) * stood) / full;
  if (stood > 0 && passed * 100 >= STALL_POINTS && passed / relativeSpread(fit.wander, stood, passed) > SIGNIFICANT)
    found.push('stalled');

  const left = Math.max(0, full - last.u);
  const likely = left / Math.exp(fit.logRate);
  const own = left > 0 ? (ROUNDING * full) / left : 0;
  const spread = likely > 0 ? Math.sqrt(fit.wander / likely + fit.spread ** 2 + own ** 2) : 0;
  const far = Math.min(MOST_FAR, studentFactor(fit.weight) * QUANTILE * spread);
  // What is left is counted from the last report; what has passed since is not known.
  const at = (seconds: number): string =>
    new Date(Math.min(END_OF_TIME, Date.parse(startedAt) + (last.t + seconds) * 1000)).toISOString();
  return Object.freeze({
    kind: 'live-estimate',
    progress: shareOf(curve, last.u / full),
    low: at(likely * Math.exp(-far)),
    likely: at(likely),
    high: at(likely * Math.exp(far)),
    found: Object.freeze(found),
    reports: reports.length,
  });
}

/** Reports as points, from the last new beginning on. */
function pointsOf(
  curve: WorkCurve,
  full: number,
  startedAt: string,
  reports: readonly ProgressReport[],
  { countsEachBand = false }: Expected,
): { points: Point[]; found: Finding[]; previousRate: number | undefined } {
  const start = Date.parse(startedAt);
  let points: Point[] = [{ t: 0, u: 0, percent: 0 }];
  let previousRate: number | undefined;
  let band = 0;
  const bands = curve.bandEnds.length;
  for (const report of reports) {
    const t = Math.max(0, (Date.parse(report.at) - start) / 1000);
    const before = points.at(-1) as Point;
    const fell = report.percent < before.percent - RESTART_POINTS;
    let share = report.percent / 100;
    if (countsEachBand && bands > 1) {
      // A fall close to the end of a band is the next band, not a new beginning.
      const isNext = report.band === undefined && fell && band + 1 < bands && before.percent >= NEARLY_DONE;
      band = report.band === undefined ? band + (isNext ? 1 : 0) : Math.min(bands, report.band) - 1;
      const from = band === 0 ? 0 : (curve.bandEnds[band - 1] as number);
      share = from + share * ((curve.bandEnds[band] as number) - from);
    }
    const u = timeAt(curve, share) * full;
    if (u < before.u - (RESTART_POINTS / 100) * full) {
      const [first, last] = [points[0] as Point, before];
      if (last.t > first.t && last.u > first.u) previousRate = (last.u - first.u) / (last.t - first.t);
      points = [{ t, u, percent: report.percent }];
      if (report.percent === 0) band = 0;
      continue;
    }
    points.push({ t, u: Math.max(u, before.u), percent: report.percent });
  }
  return { points, found: previousRate === undefined ? [] : ['restarted'], previousRate };
}

const NEARLY_DONE = 80;

/** The point at which it was last seen to have moved. */
function lastMoving(points: readonly Point[]): number {
  let at = points.length - 1;
  while (at > 0 && (points[at] as Point).u === (points[at - 1] as Point).u) at--;
  return at;
}

interface Fit {
  readonly logRate: number;
  /** Standard deviation of the log of the rate. */
  readonly spread: number;
  /** Relative variance of the progress times its duration, seconds. */
  readonly wander: number;
  /** Observations the wander rests on. */
  readonly weight: number;
}

function fitRate(
  points: readonly Point[],
  full: number,
  prior: { readonly logRate: number; readonly spread: number },
): Fit {
  const [first, last] = [points[0] as Point, points.at(-1) as Point];
  const [time, work] = [last.t - first.t, last.u - first.u];
  const { seconds, weight } = PRIOR_WANDER;
  if (time <= 0 || work <= 0) return { ...prior, wander: seconds, weight };
  const mean = work / time;
  const rounding = 2 * (ROUNDING * full) ** 2;
  const looks = BLOCKS_SECONDS.map((shortest) => {
    const blocks = blocksOf(points, shortest);
    // Each block's departure from the steady rate, less what rounding alone would make of it.
    const departures = blocks.map(({ t, u }) => ((u - mean * t) ** 2 - rounding) / (mean ** 2 * t));
    const degrees = Math.max(0, blocks.length - 1);
    return {
      wander: Math.max(
        LEAST_WANDER,
        (weight * seconds + departures.reduce((sum, of) => sum + of, 0)) / (weight + degrees),
      ),
      degrees,
    };
  });
  // A load that lasts shows in the long blocks only: the widest look counts.
  const { wander, degrees } = looks.reduce((widest, look) => (look.wander > widest.wander ? look : widest));
  const own = wander / time + rounding / work ** 2;
  const trust = 1 / own + 1 / prior.spread ** 2;
  return {
    logRate: (Math.log(mean) / own + prior.logRate / prior.spread ** 2) / trust,
    spread: Math.sqrt(1 / trust),
    wander,
    weight: weight + degrees,
  };
}

/** Increments between reports, short ones taken together. */
function blocksOf(points: readonly Point[], shortest: number): { t: number; u: number }[] {
  const blocks: { t: number; u: number }[] = [];
  let from = points[0] as Point;
  for (const point of points.slice(1)) {
    if (point.t - from.t < shortest) continue;
    blocks.push({ t: point.t - from.t, u: point.u - from.u });
    from = point;
  }
  return blocks;
}

/** The first point of a stretch up to now that is much slower than all before it; `null` when it goes as it did. */
function slowedFrom(points: readonly Point[], { wander }: Fit, full: number): number | null {
  const last = points.length - 1;
  for (let from = 1; from < last; from++) {
    const [a, b, c] = [points[0] as Point, points[from] as Point, points[last] as Point];
    const [before, since] = [(b.u - a.u) / (b.t - a.t), (c.u - b.u) / (c.t - b.t)];
    const usual = Math.max(PRIOR_WANDER.seconds, Math.min(wander, 4 * PRIOR_WANDER.seconds));
    const rounded = 2 * (ROUNDING * full) ** 2;
    const noise = Math.sqrt(
      usual * (1 / (b.t - a.t) + 1 / (c.t - b.t)) +
        rounded / (b.u - a.u) ** 2 +
        rounded / Math.max(1, before * (c.t - b.t)) ** 2,
    );
    if (
      b.t > a.t &&
      c.t - b.t >= BLOCK_SECONDS &&
      since < SLOWED_SHARE * before &&
      (1 - since / before) / noise > SIGNIFICANT
    )
      return from;
  }
  return null;
}

/** How far progress over a time may lie from what the rate says, as a share of all work. */
function relativeSpread(wander: number, seconds: number, passed: number): number {
  return Math.sqrt((wander / seconds) * passed ** 2 + 2 * ROUNDING ** 2);
}

/** Few observations make wide tails: the quantile of Student's t over the normal one (Fisher's expansion, first term). */
function studentFactor(weight: number): number {
  return 1 + (QUANTILE ** 2 + 1) / (4 * weight);
}

/** The share of the bytes at a share of the time. */
function shareOf({ shares, times }: WorkCurve, time: number): number {
  const i = times.findIndex((of) => of >= time - 1e-12);
  if (i <= 0) return i === 0 ? 0 : 1;
  const [a, b] = [times[i - 1] as number, times[i] as number];
  const [s, t] = [shares[i - 1] as number, shares[i] as number];
  return b === a ? t : s + ((time - a) / (b - a)) * (t - s);
}
