import { expect, it } from '@jest/globals';
import { OFFICE, takenShare, workedSeconds } from './dayPattern';

const MINUTE = 60_000;

it.each([
  [
    'the office',
    { ...OFFICE, depth: 0.75 },
    (day: number, hour: number) => day >= 1 && day <= 5 && hour >= 8 && hour < 18,
  ],
  [
    'an office six hours behind',
    { days: 5, from: 14, hours: 10, depth: 0.6 },
    // Until midnight of its five days.
    (day: number, hour: number) => day >= 1 && day <= 5 && hour >= 14,
  ],
  ['nights', { days: 7, from: 22, hours: 6, depth: 0.9 }, (_day: number, hour: number) => hour >= 22 || hour < 4],
  ['weekdays', { days: 5, from: 0, hours: 24, depth: 0.5 }, (day: number) => day >= 1 && day <= 5],
] as const)('takes off what is taken, as counting minute by minute does: %s', (_name, pattern, isIn) => {
  for (const from of [
    Date.UTC(2026, 0, 1, 5),
    Date.UTC(2026, 1, 28, 17, 59),
    Date.UTC(1969, 11, 30, 9),
    Date.UTC(2026, 4, 8, 12),
  ])
    for (const minutes of [1, 600, 1441, 25_000]) {
      let counted = 0;
      for (let i = 0; i < minutes; i++) {
        const now = new Date(from + i * MINUTE);
        counted += 60 * (isIn(now.getUTCDay(), now.getUTCHours()) ? 1 - pattern.depth : 1);
      }
      expect(workedSeconds(from, from + minutes * MINUTE, pattern)).toBeCloseTo(counted, 5);
      expect(workedSeconds(from, from + minutes * MINUTE, { ...pattern, depth: 0 })).toBe(minutes * 60);
    }
  const week = 7 * 24 * 60 * MINUTE;
  expect(1 - workedSeconds(0, week, pattern) / (week / 1000)).toBeCloseTo(takenShare(pattern), 9);
});
