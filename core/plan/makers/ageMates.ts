import { membersOf, type DriveInUnit, type Pool, type UnitState } from '../../unit/state';

/** Bought within this many days of each other counts as one age. */
const SAME_AGE_DAYS = 45;

/** Members of the pool from the same lot, or bought about the same day, as a drive. */
export function ageMatesOf(unit: UnitState, pool: Pool, { serial, lot, boughtOn }: DriveInUnit): DriveInUnit[] {
  return membersOf(pool).flatMap((other) => {
    const drive = unit.drives[other];
    if (!drive || other === serial || drive.bay === null) return [];
    const sameLot = lot !== undefined && drive.lot === lot;
    const apart =
      boughtOn === undefined || drive.boughtOn === undefined
        ? Infinity
        : Math.abs(Date.parse(boughtOn) - Date.parse(drive.boughtOn)) / 86_400_000;
    return sameLot || apart <= SAME_AGE_DAYS ? [drive] : [];
  });
}
