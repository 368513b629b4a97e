import type { GrowthStep } from './cheapestGrowth';

/** What a step gives at once, or when it does at last. */
export interface Gain {
  /** Usable bytes more, at once; 0 where it comes only with a later step. */
  readonly bytes: number;
  /** The month of the step that brings it, where that is a later one; `null` where none of these does. */
  readonly withMonth?: number | null;
  /** How many steps of that month and before it has to wait for, itself left out. */
  readonly stepsMore?: number;
}

/**
 * What each step gives at once and what only later: where every member counts as the smallest, drives are bought and fitted
 * for months before the last of them brings the space of all.
 *
 * @param usableBytes what is usable before the first
 */
export function gainsOf(
  steps: readonly Pick<GrowthStep, 'month' | 'usableAfterBytes'>[],
  usableBytes: number,
): readonly Gain[] {
  const before = (i: number): number => (i === 0 ? usableBytes : (steps[i - 1]?.usableAfterBytes ?? usableBytes));
  return steps.map(({ usableAfterBytes }, i): Gain => {
    const bytes = usableAfterBytes - before(i);
    if (bytes > 0) return { bytes };
    const more = steps.slice(i + 1).findIndex((later, j) => later.usableAfterBytes > before(i + 1 + j));
    return more < 0
      ? { bytes: 0, withMonth: null }
      : { bytes: 0, withMonth: steps[i + 1 + more]?.month ?? null, stepsMore: more + 1 };
  });
}
