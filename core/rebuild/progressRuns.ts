import { NEARLY_NEXT_BAND } from './nearlyDone';
import type { ProgressReport } from '../unit/state';
import type { WorkCurve } from './workCurve';

/** What one report teaches: how much was done at a moment, and how well that is known. */
export interface Reading {
  /** Milliseconds since 1970. */
  readonly at: number;
  /** Share of the bytes, 0..1, and its standard deviation. */
  readonly share: number;
  readonly spread: number;
}

/** Work from one beginning to the next. */
export interface ProgressRun {
  /** When it began, milliseconds since 1970; `null` where that is not known. */
  readonly begun: number | null;
  /** At least one in every run but the last. */
  readonly readings: readonly Reading[];
  /** The share its last report says, 0..1, and when that was. */
  readonly said: number;
  readonly heard: number;
  /** What its last report teaches that shows no new figure: not yet past it. `null` where it shows one. */
  readonly still: Reading | null;
  /** How long it stood at each figure until it was seen past it, milliseconds. */
  readonly gaps: readonly number[];
  /** The smallest step the unit shows, as a share of all work. */
  readonly step: number;
}

/** Falls of more than this share are a new beginning, not a correction. */
const RESTART_SHARE = 0.01 + 1e-9;
/** Of an even spread over one step, the standard deviation. */
const EVEN = 1 / Math.sqrt(12);

interface Told {
  readonly at: number;
  readonly share: number;
  /** The smallest step a unit shows, as a share of all work. */
  readonly step: number;
}

/**
 * Reports as runs of readings, oldest first. A unit shows what is done cut off to whole percents (or tenths): the first
 * report of a new figure tells when that was passed, the ones that repeat it tell nothing new.
 *
 * @param startedAt when the latest run began, ISO 8601; reports before it are of earlier runs
 * @param countsEachBand a family that counts each band from 0 to 100
 */
export function progressRuns(
  curve: Pick<WorkCurve, 'bandEnds'>,
  startedAt: string,
  reports: readonly ProgressReport[],
  countsEachBand: boolean,
): readonly ProgressRun[] {
  const start = Date.parse(startedAt);
  const sorted = reports.map((report) => ({ ...report, ms: Date.parse(report.at) })).sort((a, b) => a.ms - b.ms);
  const step = stepOf(sorted.map(({ percent }) => percent));
  const runs: { begun: number | null; told: Told[] }[] = [];
  const earlier = sorted.filter(({ ms }) => ms < start);
  for (const [begun, of] of [
    [null, earlier],
    [start, sorted.filter(({ ms }) => ms >= start)],
  ] as const) {
    if (begun === null && of.length === 0) continue;
    let run: { begun: number | null; told: Told[] } = { begun, told: [] };
    runs.push(run);
    let band = 0;
    let before: ProgressReport | undefined;
    for (const report of of) {
      let [share, size] = [report.percent / 100, step];
      if (countsEachBand && curve.bandEnds.length > 1) {
        const fell = before !== undefined && share < before.percent / 100 - RESTART_SHARE;
        // A fall close to the end of a band is the next band, not a new beginning.
        const isNext = fell && (before?.percent ?? 0) >= NEARLY_NEXT_BAND && band + 1 < curve.bandEnds.length;
        band = report.band === undefined ? band + (isNext ? 1 : 0) : Math.min(curve.bandEnds.length, report.band) - 1;
        if (report.band === undefined && fell && !isNext) band = 0;
        const from = band === 0 ? 0 : (curve.bandEnds[band - 1] as number);
        const width = (curve.bandEnds[band] as number) - from;
        [share, size] = [from + share * width, size * width];
      }
      const last = run.told.at(-1);
      if (last && share < last.share - RESTART_SHARE) {
        run = { begun: share === 0 ? report.ms : null, told: [] };
        runs.push(run);
      }
      run.told.push({ at: report.ms, share: Math.max(share, run.told.at(-1)?.share ?? 0), step: size });
      before = report;
    }
  }
  // A beginning that is itself a report of nothing done opens the next run, and is no run of its own.
  return runs.filter(({ told }, i) => i === runs.length - 1 || (told.at(-1)?.share ?? 0) > 0).map(runOf);
}

/** Steps in which units show what is done, percent, the widest first. */
const STEPS = [20, 10, 5, 2, 1] as const;
/** As many figures tell that a unit shows nothing between. */
const TELLING = 2;

/** The step of what a unit shows, as a share: the widest that all figures are multiples of, tenths where some are no whole percents. */
function stepOf(percents: readonly number[]): number {
  if (!percents.every(Number.isInteger)) return 0.001;
  const shown = [...new Set(percents)].filter((one) => one > 0 && one < 100);
  const widest = STEPS.find((step) => shown.every((one) => one % step === 0)) as number;
  return (shown.length < TELLING ? 1 : widest) / 100;
}

function runOf({ begun, told }: { readonly begun: number | null; readonly told: readonly Told[] }): ProgressRun {
  const readings: Reading[] = [];
  const gaps: number[] = [];
  let first = begun === null ? undefined : { at: begun, share: 0 };
  for (const [i, { at, share, step }] of told.entries()) {
    if (first && share === first.share) continue;
    const looked = told[i - 1]?.at ?? begun;
    // Since the look before, it cannot have gone further past the figure than its own pace.
    const pace = first && at > first.at ? (share - first.share) / (at - first.at) : Infinity;
    const past = looked === null || share === 1 ? step : Math.min(step, pace * (at - looked));
    const room = share === 1 ? 0 : past;
    if (first) gaps.push(at - first.at);
    readings.push({ at, share: share + room / 2, spread: Math.max(room, step / 20) * EVEN });
    first = { at, share };
  }
  const end = told.at(-1) ?? { at: begun ?? 0, share: 0, step: 0 };
  const still =
    first && end.at > first.at ? { at: end.at, share: end.share + end.step / 2, spread: end.step * EVEN } : null;
  return { begun, readings, said: end.share, heard: end.at, still, step: end.step, gaps };
}
