import { USUAL_FAILURES_PER_YEAR } from '../appraisal/appraise';
import type { Media } from '../drive/media';
import type { OwnRate } from './ownRate';

/** Drives with moving parts and drives without fail for different reasons. */
export type RateGroup = 'disks' | 'flash';

const GROUP_OF: Readonly<Record<Media, RateGroup>> = {
  'hard-disk': 'disks',
  shingled: 'disks',
  ssd: 'flash',
  nvme: 'flash',
};

/** The group a kind of drive is counted in. */
export function rateGroupOf(media: Media = 'hard-disk'): RateGroup {
  return GROUP_OF[media];
}

/** What is thought of how many drives fail in a year, from and to. */
export interface ThoughtRate {
  readonly failuresPerYear: readonly [number, number];
  /** The usual range, sharpened by what failed here. */
  readonly isOwn: boolean;
}

/** What is thought of each group. */
export type ThoughtRates = Readonly<Record<RateGroup, ThoughtRate>>;

/**
 * What is thought of drives of which this was seen; the usual range where nothing was. By two figures, as it is told: an answer
 * that rests on it does not change by the minute.
 */
export function thoughtRate(own: OwnRate | undefined): ThoughtRate {
  const told = (share: number): number => Number(share.toPrecision(2));
  return own && own.years > 0
    ? { failuresPerYear: [told(own.low), told(own.high)], isOwn: true }
    : { failuresPerYear: USUAL_FAILURES_PER_YEAR, isOwn: false };
}
