import type { Copy } from './state';

/**
 * True for a copy that somebody has seen to be good: a restore from it worked, or it was compared with what it is a copy of
 * and was the same; and it has not failed since. A copy that only ran is hoped for.
 */
export function isProven({ failedAt, restoreWorked, sameAt }: Copy): boolean {
  return failedAt === undefined && (restoreWorked === true || sameAt !== undefined);
}
