import type { RebuildEstimate } from '../../rebuild/estimateRebuild';
import type { PlanStep } from '../plan';

/** How long a rebuild takes as it is reckoned beforehand; once it runs, what is heard of it says more. */
export interface Reckoned {
  readonly hours: number;
  /** From and to; left out of a pool that is empty. */
  readonly between?: [number, number];
  /** That there is nothing to copy. */
  readonly isEmpty: boolean;
}

export function reckonedOf({ low, likely, high, writtenBytes }: RebuildEstimate): Reckoned {
  const hours = likely / 3600;
  return writtenBytes === 0 ? { hours, isEmpty: true } : { hours, between: [low / 3600, high / 3600], isEmpty: false };
}

/** The step's fields for such a wait, and its words. */
export function waitFor(
  { hours, between, isEmpty }: Reckoned,
  words: string,
): Pick<PlanStep, 'why' | 'hours' | 'between'> {
  return {
    why: `${isEmpty ? 'Nothing is in it, so there is nothing to copy: minutes. ' : ''}${words}`,
    hours,
    ...(between === undefined ? {} : { between }),
  };
}
