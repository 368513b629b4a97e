import { neededHeight } from '../pool/neededHeight';
import { membersOf, poolOfDrive, type UnitState } from './state';

/**
 * The bytes a drive must have to take over from one of this unit: the height its pool really uses of it (see
 * {@link neededHeight}); of a spare, the largest height it may have to stand in for; of an idle drive its own size.
 */
export function neededBytes(unit: UnitState, serial: string): number {
  const pool = poolOfDrive(unit, serial);
  if (!pool) return unit.drives[serial]?.bytes ?? 0;
  const members = membersOf(pool);
  return members.includes(serial)
    ? neededHeight(pool.bands, serial)
    : Math.max(...members.map((member) => neededHeight(pool.bands, member)));
}
