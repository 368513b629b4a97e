import type { GrowthStep } from './cheapestGrowth';

/** What a step gives at once, or when it does at last. */
export interface Gain {
  /** Bytes more, as its page shows them, at once; 0 where it comes only with a later step. */
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
 * @param shownBytes what its page shows before the first
 */
export function gainsOf(
  steps: readonly Pick<GrowthStep, 'month' | 'shownAfterBytes'>[],
  shownBytes: number,
): readonly Gain[] {
  const before = (i: number): number => (i === 0 ? shownBytes : (steps[i - 1]?.shownAfterBytes ?? shownBytes));
  return steps.map(({ shownAfterBytes }, i): Gain => {
    const bytes = shownAfterBytes - before(i);
    if (bytes > 0) return { bytes };
    const more = steps.slice(i + 1).findIndex((later, j) => later.shownAfterBytes > before(i + 1 + j));
    return more < 0
      ? { bytes: 0, withMonth: null }
      : { bytes: 0, withMonth: steps[i + 1 + more]?.month ?? null, stepsMore: more + 1 };
  });
}
