import { daysAfter, dayOf } from '../quantity/days';
import { formatBytes } from '../quantity/formatBytes';
import { PROVEN_DAYS } from '../unit/provenCopy';
import { poolsOf, type Copy, type DataSet, type UnitState } from '../unit/state';

/** What is wrong with the copies of a data set, and from when on it is. */
export interface CopyTrouble {
  readonly code:
    | 'no-copy'
    | 'copy-failed'
    | 'copy-old'
    | 'only-mirrors'
    | 'none-off-site'
    | 'never-restored'
    | 'restore-failed'
    | 'copy-target-full';
  readonly reason: string;
  readonly from: string;
}

/** A copy that says nothing of how often it runs is taken to run weekly (common practice). */
const USUAL_EVERY_DAYS = 7;

/** What is wrong with one data set's copies: every sentence names the copy and says what to do. */
export function copyTroubles(set: DataSet, since: string): CopyTrouble[] {
  const copies = Object.values(set.copies);
  const from = since;
  if (copies.length === 0)
    return [
      {
        code: 'no-copy',
        from,
        reason: `${set.name} is written down without any copy. A pool is not a backup: fire, theft and deletion take all members at once.`,
      },
    ];
  const troubles: CopyTrouble[] = [];
  for (const copy of copies) troubles.push(...oneCopy(set, copy));
  if (copies.every(({ keeps }) => keeps === 'mirror'))
    troubles.push({
      code: 'only-mirrors',
      from,
      reason: `Every copy of ${set.name} is a mirror: it repeats a deletion. Keep one with versions.`,
    });
  if (!copies.some(({ offSite }) => offSite))
    troubles.push({
      code: 'none-off-site',
      from,
      reason: `No copy of ${set.name} is off site: one fire takes all of them.`,
    });
  const tried = copies.flatMap(({ restoreTriedAt, restoreWorked, where }) =>
    restoreTriedAt === undefined ? [] : [{ restoreTriedAt, restoreWorked, where }],
  );
  const last = tried.sort((a, b) => (a.restoreTriedAt < b.restoreTriedAt ? 1 : -1))[0];
  if (!last)
    troubles.push({
      code: 'never-restored',
      from,
      reason: `No restore of ${set.name} has ever been tried. Fetch one file back from ${copies[0]?.where ?? 'a copy'} and open it.`,
    });
  else if (last.restoreWorked === false)
    troubles.push({
      code: 'restore-failed',
      from: last.restoreTriedAt,
      reason: `The last restore of ${set.name}, from ${last.where}, did not work. Until one does there is no proven copy.`,
    });
  else
    troubles.push({
      code: 'never-restored',
      from: daysAfter(last.restoreTriedAt, PROVEN_DAYS),
      reason: `A restore of ${set.name} was last tried on ${dayOf(last.restoreTriedAt)}. Fetch one file back and open it.`,
    });
  return troubles;
}

function oneCopy(set: DataSet, copy: Copy): CopyTrouble[] {
  const { where, ranAt, failedAt, describedAt, everyDays = USUAL_EVERY_DAYS, freeBytes } = copy;
  const troubles: CopyTrouble[] = [];
  if (failedAt !== undefined)
    troubles.push({
      code: 'copy-failed',
      from: failedAt,
      reason: `The copy of ${set.name} at ${where} failed on ${dayOf(failedAt)} and has not run since.`,
    });
  else
    troubles.push({
      code: 'copy-old',
      from: daysAfter(ranAt ?? describedAt, 2 * everyDays),
      reason: `${ranAt === undefined ? `The copy of ${set.name} at ${where} has never been seen to run` : `The copy of ${set.name} at ${where} last ran on ${dayOf(ranAt)}`}; it is meant to run every ${everyDays === 1 ? 'day' : `${String(everyDays)} days`}.`,
    });
  if (freeBytes !== undefined && set.bytes !== undefined && freeBytes < set.bytes / 10)
    troubles.push({
      code: 'copy-target-full',
      from: ranAt ?? describedAt,
      reason: `${where} has ${formatBytes(freeBytes, 'binary')} left for copies of ${set.name}.`,
    });
  return troubles;
}

/** Pools nobody has written a data set down for. */
export function poolsWithoutDataSet(unit: UnitState): string[] {
  const covered = new Set(Object.values(unit.dataSets).flatMap(({ pool }) => pool ?? []));
  // What is left in a unit whose data has moved is a copy itself.
  if (unit.movedTo) return [];
  // One data set without a pool is taken to speak for the whole unit.
  if (Object.values(unit.dataSets).some(({ pool }) => pool === undefined)) return [];
  return poolsOf(unit).flatMap(({ id, name }) => (covered.has(id) ? [] : [name]));
}
