import { poolOfDrive, type UnitState } from './state';

/**
 * The bytes a drive must have to take over from a member: the member's own size, or, where the family accepts smaller
 * replacements, the height its pool really uses.
 */
export function neededBytes(unit: UnitState, serial: string): number {
  const own = unit.drives[serial]?.bytes ?? 0;
  const pool = poolOfDrive(unit, serial);
  if (!pool) return own;
  const height = Math.max(0, ...pool.bands.filter(({ members }) => members.includes(serial)).map(({ toBytes }) => toBytes));
  return unit.profile.rebuild.acceptsSmaller && height > 0 ? height : own;
}
