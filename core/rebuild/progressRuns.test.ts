import { describe, expect, it } from '@jest/globals';
import type { ProgressReport } from '../unit/state';
import { progressRuns } from './progressRuns';

const START = '2026-01-01T00:00:00.000Z';
const told = (...reports: readonly (readonly [minutes: number, percent: number, band?: number])[]): ProgressReport[] =>
  reports.map(([minutes, percent, band]) => ({
    at: new Date(Date.parse(START) + minutes * 60_000).toISOString(),
    percent,
    ...(band === undefined ? {} : { band }),
  }));
const whole = { bandEnds: [1] };

describe('progressRuns', () => {
  it('takes a figure for passed when it is first seen, and the same one again for nothing new', () => {
    const [run] = progressRuns(whole, START, told([10, 1], [11, 1], [12, 1], [20, 2], [21, 2]), false);
    expect(run?.readings.map(({ share }) => Math.floor(share * 100))).toEqual([1, 2]);
    // Looked at eight minutes before, at a pace of ten a percent: it cannot be further than that past two.
    expect(run?.readings[1]?.share).toBeCloseTo(0.02 + 0.008 / 2, 9);
    expect([run?.said, run?.still?.share]).toEqual([0.02, 0.025]);
    expect(progressRuns(whole, START, told([10, 1]), false)[0]?.still).toBeNull();
  });

  it('puts reports in order, and takes what is before the latest beginning for an earlier run', () => {
    const later = new Date(Date.parse(START) + 60 * 60_000).toISOString();
    const runs = progressRuns(whole, later, told([50, 40], [20, 15], [60, 0], [90, 20]), false);
    expect(runs.map(({ begun, readings }) => [begun === null, readings.length])).toEqual([
      [true, 2],
      [false, 1],
    ]);
  });

  it('takes a fall of more than a point for a new beginning, and of a point for a correction', () => {
    expect(progressRuns(whole, START, told([10, 5], [20, 10], [30, 2], [40, 4]), false)).toHaveLength(2);
    const corrected = progressRuns(whole, START, told([10, 5], [20, 10], [30, 9], [40, 12]), false);
    expect([corrected.length, corrected[0]?.readings.length]).toEqual([1, 3]);
  });

  it('counts bands one after the other, a tenth of a percent where that is shown, and a hundred as done', () => {
    const two = { bandEnds: [0.5, 1] };
    expect(progressRuns(two, START, told([10, 50], [20, 96], [30, 4]), true).at(-1)?.said).toBeCloseTo(0.52, 9);
    expect(progressRuns(two, START, told([10, 10, 2]), true).at(-1)?.said).toBeCloseTo(0.55, 9);
    const fine = progressRuns(whole, START, told([100, 10.5]), false)[0]?.readings[0];
    expect(fine?.share).toBeCloseTo(0.1055, 9);
    expect(progressRuns(whole, START, told([100, 100]), false)[0]?.said).toBe(1);
  });

  it('finds the step in which a unit shows what is done: the widest that all figures are multiples of', () => {
    const stepOf = (...percents: readonly number[]): number | undefined =>
      progressRuns(whole, START, told(...percents.map((percent, i) => [60 * (i + 1), percent] as const)), false)[0]
        ?.step;
    expect([stepOf(5, 10, 20), stepOf(10, 30, 100), stepOf(2, 4, 8), stepOf(5, 10, 11), stepOf(1.5, 2)]).toEqual([
      0.05, 0.1, 0.02, 0.01, 0.001,
    ]);
    // Of one figure nobody can tell; and how long it stood at each is known.
    expect(stepOf(0, 20)).toBe(0.01);
    const [run] = progressRuns(whole, START, told([10, 5], [20, 5], [40, 10], [100, 15]), false);
    expect(run?.gaps.map((ms) => ms / 60_000)).toEqual([10, 30, 60]);
  });
});
