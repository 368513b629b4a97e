import { OFFICE, type DayPattern } from './dayPattern';

/** Other work on the unit, from left alone to hammered: spread as a share of the rate, how long it lasts, how common. */
export const LOADS = [
  { share: 0.06, lasts: 1800, weight: 0.4 },
  { share: 0.15, lasts: 1050, weight: 0.28 },
  { share: 0.3, lasts: 5400, weight: 0.15 },
  { share: 0.5, lasts: 9000, weight: 0.1 },
  { share: 0.8, lasts: 9000, weight: 0.07 },
] as const;

/**
 * What takes a share of the speed at its hours, and how common: nothing; people in office hours; those of a clock that is off; the
 * unit's own nights; all that is no weekend.
 */
export const PATTERNS: readonly (DayPattern & { readonly weight: number })[] = Object.freeze([
  { ...OFFICE, depth: 0, weight: 0.4632 },
  { ...OFFICE, depth: 0.35, weight: 0.1 },
  { ...OFFICE, depth: 0.6, weight: 0.11 },
  { ...OFFICE, depth: 0.8, weight: 0.08 },
  ...[-9, -6, -3, 3, 6, 9].map((off) => ({ ...OFFICE, from: OFFICE.from + off, depth: 0.65, weight: 0.01 })),
  ...[20, 22, 24, 26].map((from) => ({ days: 7, from, hours: 6, depth: 0.95, weight: 0.03 })),
  // So rare that they are thought of only where an earlier run of the unit speaks for them.
  ...[20, 21, 22, 23, 24, 25, 26].flatMap((from) =>
    [4.5, 8].map((hours) => ({ days: 7, from, hours, depth: 0.97, weight: 0.0012 })),
  ),
  ...[0.4, 0.7].map((depth) => ({ days: 5, from: 0, hours: 24, depth, weight: 0.025 })),
]);
