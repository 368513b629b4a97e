import { daysAfter } from '../quantity/days';
import type { Copy } from './state';

/** A proof holds for so many days: a restore is tried at least once a year (common practice). */
export const PROVEN_DAYS = 365;

/**
 * True for a copy that somebody has seen to be good: a restore from it worked, or it was compared with what it is a copy of
 * and was the same, within a year; and it has not failed since. A copy that only ran is hoped for.
 *
 * @param at the moment it is asked at (ISO 8601); left out, a proof of any age counts
 */
export function isProven({ failedAt, restoreWorked, restoreTriedAt, sameAt }: Copy, at?: string): boolean {
  const holds = (since: string | undefined): boolean =>
    since !== undefined && (at === undefined || at <= daysAfter(since, PROVEN_DAYS));
  return failedAt === undefined && ((restoreWorked === true && holds(restoreTriedAt)) || holds(sameAt));
}
