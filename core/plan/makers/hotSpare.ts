import { formatExactBytes } from '../../quantity/formatBytes';
import { bayName } from '../../unit/bayName';
import { fullMarginOfPool, isDown } from '../../unit/margin';
import { neededBytes } from '../../unit/neededBytes';
import { freeBays, membersOf, type DriveInUnit, type UnitState } from '../../unit/state';
import { demandOf, isFitting } from '../../upkeep/spareCoverage';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanBody } from '../plan';
import { draftPlan } from './draftPlan';
import { driveListed } from './driveListed';
import { erasesWords, layOut, sizeOf, whyNotFree } from './freshDrives';
import { fit, powerDown, powerUp, type NewDrive } from './handsOnDrive';
import type { ReplaceWish } from './replace';

export interface HotSpareWish extends Pick<ReplaceWish, 'tested'> {
  readonly pool: string;
  readonly drive: NewDrive;
  /** The free bay; left out means the first. */
  readonly bay?: string;
}

/**
 * The plan to keep a spare in the unit itself: fitted in a free bay, named as spare of a pool, and seen to stand as one.
 * It must stand in for every member, byte for byte: one that is too small is found out on the day it is needed.
 */
export function hotSparePlan(unit: UnitState, wish: HotSpareWish): PlanBody | Refusal {
  const pool = entryOf(unit.pools, wish.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no pool ${wish.pool}.`, '/pool');
  if (isDown(pool))
    return refusal(
      'pool-lost',
      `${pool.name} has stopped: open the rescue desk; once its unit serves it again, say so there.`,
      '/pool',
    );
  if (pool.missing.length > 0)
    return refusal(
      'thinned',
      `${pool.missing.join(', ')} is missing from ${pool.name}: a spare would step in for it at once. Replace it by a plan of its own.`,
      '/pool',
    );
  if (fullMarginOfPool(pool) === 0)
    return refusal('unguarded', `${pool.name} has no protection: a spare has nothing to rebuild from.`, '/pool');
  const bay = wish.bay ?? freeBays(unit)[0];
  if (bay === undefined)
    return refusal('no-free-bay', 'No bay is free: keep the spare in a drawer beside the unit.', '/bay');
  const wrong = whyNotFree(unit, [bay], '/bay');
  if (wrong) return wrong;
  const members = membersOf(pool)
    .flatMap((serial) => entryOf(unit.drives, serial) ?? [])
    .sort((a, b) => neededBytes(unit, b.serial) - neededBytes(unit, a.serial));
  const [largest] = members as [DriveInUnit];
  const unfit = members.find((member) => !isFitting(demandOf(unit, member, pool), wish.drive));
  if (unfit) {
    const { neededBytes: needs } = demandOf(unit, unfit, pool);
    return wish.drive.bytes < needs
      ? refusal(
          'drive-too-small',
          `${sizeOf(wish.drive)} does not stand in for ${bayName(unit, unfit.bay)} (${unfit.serial}), which needs ${formatExactBytes(needs)} bytes.`,
          '/drive/bytes',
        )
      : refusal(
          'unfitting',
          `It does not stand in for ${bayName(unit, unfit.bay)} (${unfit.serial}): another kind of drive, or one that shows signs.`,
          '/drive/media',
        );
  }

  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  layOut(draft, wish.drive, {
    pool: pool.id,
    use: 'spare',
    bays: [bay],
    why: `${driveListed(wish.drive, wish.tested)} ${erasesWords(1, 'what becomes a spare is erased when it steps in')}`,
  });
  under('At the shelf');
  powerDown(draft, unit);
  fit(draft, unit, { bay }, wish.drive, largest.serial);
  powerUp(draft, unit, {});
  under('At its page');
  then({
    id: 'assign',
    kind: 'act',
    title: `Make the drive in ${bayName(unit, bay)} the spare of ${pool.name} in the unit’s own page`,
    why: 'Choose it by its serial. Some families keep one spare for all pools, some one for each: see that it says spare, and of what.',
    caution:
      'Say yes only to the drive you have just fitted. If it offers to add it to the pool, answer no: a member never comes out again but by a rebuild.',
    does: [{ kind: 'assign-spare', pool: pool.id, bay }],
    bay,
  });
  then({
    id: 'seen',
    title: 'See that its page shows a spare, ready, and that the pool is as it was',
    why: 'A spare that only stands in a bay, assigned to nothing, steps in for nobody. It ages there too: put it into the health tests.',
    maySkip: true,
  });
  return { job: 'hot-spare', title: `A spare in ${bayName(unit, bay)} of ${unit.name}`, steps: draft.steps };
}
