import { YEAR_DAYS } from '../quantity/year';
import type { Days } from './byDay';

/** Twice a year as well as once: harvests and holidays. */
const HARMONICS = 2;
/** The season must take away so much of what a straight line leaves (sum of squares). */
const LEAST_SHARE = 0.3;
/** A wave of a year is seen on so many days as well as on all. */
const MOST_POINTS = 250;
/** So many years must be there before a season counts (three periods). */
export const FEWEST_YEARS = 3;

/** What a time of year adds to or takes from the straight line, bytes by day since 1970. */
export interface Season {
  readonly at: (day: number) => number;
  /** How much of what the line leaves it takes away, 0..1. */
  readonly share: number;
}

/** The yearly wave that fits best beside a straight line (least squares), whatever it is worth; `null` where it cannot be told. */
export function yearlyWave(days: Days): Season | null {
  const every = Math.ceil(days.day.length / MOST_POINTS);
  const day = days.day.filter((_, i) => i % every === 0);
  const bytes = days.bytes.filter((_, i) => i % every === 0);
  const first = day[0] ?? 0;
  if (day.length < 24) return null;
  const row = (one: number): number[] => [
    1,
    (one - first) / YEAR_DAYS,
    ...Array.from({ length: HARMONICS }, (_, k) => {
      const turn = (2 * Math.PI * (k + 1) * one) / YEAR_DAYS;
      return [Math.cos(turn), Math.sin(turn)];
    }).flat(),
  ];
  const rows = day.map(row);
  const line = leastSquares(
    rows.map((of) => of.slice(0, 2)),
    bytes,
  );
  const all = leastSquares(rows, bytes);
  if (!line || !all) return null;
  const left = (weights: readonly number[]): number =>
    rows.reduce((sum, of, i) => sum + ((bytes[i] as number) - dot(weights, of)) ** 2, 0);
  const [before, after] = [left(line), left(all)];
  const waves = all.slice(2);
  return {
    at: (one) => dot(waves, row(one).slice(2)),
    share: before === 0 ? 0 : 1 - after / before,
  };
}

/** The season of a history: only where three years of it exist, and it is worth it. */
export function seasonOf(days: Days): Season | null {
  const years = ((days.day.at(-1) ?? 0) - (days.day[0] ?? 0)) / YEAR_DAYS;
  if (years < FEWEST_YEARS - 0.01) return null;
  const wave = yearlyWave(days);
  return wave && wave.share >= LEAST_SHARE ? wave : null;
}

function dot(a: readonly number[], b: readonly number[]): number {
  return a.reduce((sum, x, i) => sum + x * (b[i] ?? 0), 0);
}

/** The weights of columns that fit best (normal equations, Gauss with pivots); `null` when columns are alike. */
function leastSquares(rows: readonly (readonly number[])[], y: readonly number[]): number[] | null {
  const n = rows[0]?.length ?? 0;
  const system = Array.from({ length: n }, (_, i) => [
    ...Array.from({ length: n }, (_, j) => rows.reduce((sum, row) => sum + (row[i] as number) * (row[j] as number), 0)),
    rows.reduce((sum, row, k) => sum + (row[i] as number) * (y[k] as number), 0),
  ]);
  for (let i = 0; i < n; i++) {
    const pivot = system
      .slice(i)
      .reduce((best, row, k) => (Math.abs(row[i] as number) > Math.abs(system[best]?.[i] ?? 0) ? i + k : best), i);
    [system[i], system[pivot]] = [system[pivot] as number[], system[i] as number[]];
    const head = system[i] as number[];
    if (Math.abs(head[i] as number) < 1e-9) return null;
    for (const row of system) {
      if (row === head) continue;
      const factor = (row[i] as number) / (head[i] as number);
      for (let j = i; j <= n; j++) row[j] = (row[j] as number) - factor * (head[j] as number);
    }
  }
  return system.map((row, i) => (row[n] as number) / (row[i] as number));
}
