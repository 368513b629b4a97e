import { dayOf } from '../quantity/days';
import type { DataSet } from '../unit/state';

/** Where the copies of a data set are, how old, and whether a restore was tried, in a sentence. */
export function copyWords({ name, copies }: DataSet): string {
  const each = Object.values(copies).map(({ where, keeps, offSite, ranAt, sameAt, restoreTriedAt, restoreWorked }) => {
    const kept = `${keeps === 'mirror' ? 'a mirror' : 'versions'}${offSite ? ', off site' : ''}`;
    const tried =
      restoreTriedAt === undefined
        ? sameAt === undefined
          ? 'a restore was never tried'
          : `compared ${dayOf(sameAt)}, the same`
        : `restore tried ${dayOf(restoreTriedAt)}${restoreWorked === false ? ' and failed' : ''}`;
    return `${where} (${kept}): ${ranAt === undefined ? 'no run on record' : `last ran ${dayOf(ranAt)}`}, ${tried}`;
  });
  return `${name}: ${each.join('; ')}.`;
}
