import type { DriveInUnit, UnitState } from './state';

/** The unit with drives in bays that nobody has touched yet: to see beforehand what it would make of them. Each is called by its bay. */
export function withFreshDrives(
  unit: UnitState,
  drives: readonly (Omit<DriveInUnit, 'kind' | 'serial' | 'bay' | 'condition' | 'insertedAt'> & {
    readonly bay: string;
  })[],
): UnitState {
  const fresh = drives.map((drive) => {
    const serial = `new in ${drive.bay}`;
    const here = { serial, condition: 'well' as const, insertedAt: unit.registeredAt };
    return [serial, { kind: 'drive-in-unit' as const, ...drive, ...here }] as const;
  });
  return { ...unit, drives: { ...unit.drives, ...Object.fromEntries(fresh) } };
}
