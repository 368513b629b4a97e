import { workedSeconds, type DayPattern } from './dayPattern';
import type { RunKept } from './paces';
import { firstBelief, walk, type Step } from './progressFilter';
import type { ProgressRun } from './progressRuns';
import { LOADS, PATTERNS } from './thoughtOf';
import { timeAt, type WorkCurve } from './workCurve';

/** More readings of a finished run teach no more of its hours. */
const MOST_KEPT = 48;
/** Fewer say nothing. */
const LEAST_KEPT = 6;
/** A minute, in milliseconds. */
const MINUTE = 60_000;
/** How far what one run showed of a unit's hours is believed of its next: those of people and of backups change. */
const SAME_AGAIN = 0.85;
/** How far the steady speed of a run is open, as a share of it, and what is done at a reading. */
const OPEN = { rate: 0.34, done: 0.004 } as const;

/** What is kept of a finished run: how far it had come at some moments. `null` where too little was read to tell hours by. */
export function keptOf(curve: WorkCurve, { begun, readings }: ProgressRun): RunKept | null {
  if (begun === null || readings.length < LEAST_KEPT) return null;
  const each = Math.ceil(readings.length / MOST_KEPT);
  const passed = readings
    .filter((_, i) => i % each === 0 || i === readings.length - 1)
    .map(({ at, share }): [number, number] => [
      Math.round((at - begun) / MINUTE),
      Number((1000 * timeAt(curve, share)).toFixed(1)),
    ]);
  return { begun: new Date(begun).toISOString(), passed };
}

/**
 * How far each of the hours that are thought of is believed, {@link PATTERNS} in their order, after a unit's own earlier runs: by how
 * well each foretold what was read of them (Bayes), under any load, and with doubt left for hours that change. What is usual
 * where there were none.
 *
 * @param kept with their beginnings by the clock of whoever keeps hours
 */
export function hoursLearnt(kept: readonly RunKept[]): readonly number[] {
  const usual = PATTERNS.map(({ weight }) => weight);
  if (kept.length === 0) return usual;
  const logs = PATTERNS.map((pattern) => kept.reduce((sum, run) => sum + logOf(run, pattern), 0));
  const best = Math.max(...logs);
  const seen = logs.map((log, i) => (usual[i] as number) * Math.exp(log - best));
  const all = seen.reduce((sum, one) => sum + one, 0);
  return usual.map((weight, i) => (1 - SAME_AGAIN) * weight + (SAME_AGAIN * (seen[i] as number)) / all);
}

/** Log of how likely a run is under these hours, at whatever speed it went. */
function logOf({ begun, passed }: RunKept, pattern: DayPattern): number {
  const from = Date.parse(begun);
  const steps = passed.map(([minutes, done], i): Step => {
    const [before] = passed[i - 1] ?? [0];
    return {
      seconds: workedSeconds(from + before * MINUTE, from + minutes * MINUTE, pattern),
      done: done / 1000,
      spread: OPEN.done,
      logSlope: 0,
    };
  });
  const worked = steps.reduce((sum, { seconds }) => sum + seconds, 0);
  const rate = (steps.at(-1)?.done ?? 0) / Math.max(1, worked);
  const likely = LOADS.map(({ share, lasts, weight }) => {
    const load = { spread: share * rate, lasts };
    return Math.log(weight) + walk(firstBelief(rate, OPEN.rate * rate, load), steps, load).log;
  });
  const best = Math.max(...likely);
  return best + Math.log(likely.reduce((sum, log) => sum + Math.exp(log - best), 0));
}
