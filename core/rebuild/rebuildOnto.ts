import type { Media } from '../drive/media';
import { membersOf, type Pool, type UnitState } from '../unit/state';
import { estimateRebuild, type RebuildEstimate } from './estimateRebuild';

/**
 * How long writing one member of a pool anew takes, the other members as they are: estimateRebuild's span, in seconds. Total: a
 * member that is not there takes no time.
 *
 * @param onto the drive it is written onto; one smaller than the member counts as large as it
 * @param usedShare share of the pool in use, 0..1; matters where only used space is rebuilt
 */
export function rebuildOnto(
  unit: UnitState,
  pool: Pool,
  member: string,
  { bytes, media }: { readonly bytes: number; readonly media?: Media },
  usedShare = 1,
): RebuildEstimate {
  const drives = new Map(
    membersOf(pool).map((serial) => {
      const drive = unit.drives[serial];
      const of =
        serial === member
          ? { bytes: Math.max(bytes, drive?.bytes ?? 0), media: media ?? 'hard-disk' }
          : { bytes: drive?.bytes ?? 1, media: drive?.media ?? 'hard-disk' };
      return [serial, { bay: serial, ...of }] as const;
    }),
  );
  return estimateRebuild(pool.bands, drives, member, unit.profile.rebuild, usedShare);
}
