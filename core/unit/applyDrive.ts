import { bayName, BayName } from './bayName';
import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { goMissing } from './applyPool';
import type { Of } from './event';
import { driveInBay, placesOf, poolOfDrive, type DriveInUnit, type UnitState } from './state';

/** What happens to a drive while it is in the unit. */

/** A drive goes into an empty bay; refused for a bay that is not there or taken, and for a serial that stands here already. */
export function insert(
  unit: UnitState,
  { bay, drive, carries }: Of<'drive-inserted'>,
  happenedAt: string,
): UnitState | Refusal {
  if (!placesOf(unit).includes(bay)) return refusal('bay-unknown', `${unit.name} has no bay ${bay}.`, '/bay');
  const there = driveInBay(unit, bay);
  if (there) return refusal('bay-occupied', `${BayName(unit, bay)} of ${unit.name} holds ${there.serial}.`, '/bay');
  const before = entryOf(unit.drives, drive.serial);
  if (before?.bay != null)
    return refusal(
      'drive-elsewhere',
      `${drive.serial} is in ${bayName(unit, before.bay)} of ${unit.name} already.`,
      '/drive/serial',
    );
  // A drive that comes back is the same drive; whether its pool takes it in again is another event's matter.
  // What it had shown before is not forgotten by taking it out and putting it in again.
  const { sick, note } = before ?? {};
  const marks = {
    ...(sick === undefined ? {} : { sick, ...(note === undefined ? {} : { note }) }),
    ...(before && poolOfDrive(unit, drive.serial) ? { backIn: true as const } : {}),
  };
  const standing: DriveInUnit = {
    kind: 'drive-in-unit',
    ...drive,
    ...marks,
    // Back in its own unit it is a member again, and carried no more.
    ...(carries === undefined || poolOfDrive(unit, drive.serial) ? {} : { carries }),
    bay,
    condition: sick === undefined ? 'well' : 'suspected',
    insertedAt: happenedAt,
  };
  return frozen({ ...unit, drives: { ...unit.drives, [drive.serial]: standing } });
}

/** A drive has failed: its pools are without it from then on. Refused for one that is not here. */
export function failDrive(unit: UnitState, { serial, note }: Of<'drive-failed'>): UnitState | Refusal {
  return withDrive(
    unit,
    serial,
    (drive) => ({ ...drive, condition: 'failed', sick: 'failed', ...(note === undefined ? {} : { note }) }),
    true,
  );
}

/**
 * A drive shows signs: it works on, under watch, and the note is remembered. Refused for one that is not in a bay here.
 */
export function suspectDrive(unit: UnitState, { serial, note }: Of<'drive-suspected'>): UnitState | Refusal {
  return withDrive(
    unit,
    serial,
    (drive) => ({
      ...drive,
      condition: drive.condition === 'well' ? 'suspected' : drive.condition,
      sick: drive.sick ?? 'signs',
      note,
    }),
    false,
  );
}

/** Looked at and found well: the sign is settled. A drive that failed is not cleared by saying so. */
export function clearDrive(unit: UnitState, { serial, note }: Of<'drive-cleared'>): UnitState | Refusal {
  return withDrive(
    unit,
    serial,
    ({ note: _sign, sick: _settled, ...drive }) => ({
      ...drive,
      condition: drive.condition === 'suspected' ? 'well' : drive.condition,
      ...(note === undefined ? {} : { note }),
    }),
    false,
  );
}

/** A drive comes out of its bay, and is no cache any more. Refused for one that is not here. */
export function removeDrive(unit: UnitState, { serial }: Of<'drive-removed'>): UnitState | Refusal {
  return withDrive(
    { ...unit, cache: unit.cache.filter((one) => one !== serial) },
    serial,
    (drive) => ({ ...drive, bay: null, condition: 'removed' }),
    true,
  );
}

/**
 * The unit is told to do without a drive that still turns: missing from its pool from then on, its margin falls.
 * Refused for one that is not in a bay here.
 */
export function takeOutOfService(unit: UnitState, { serial }: Of<'drive-taken-out-of-service'>): UnitState | Refusal {
  return withDrive(
    unit,
    serial,
    (drive) => ({ ...drive, condition: drive.condition === 'failed' ? 'failed' : 'out-of-service' }),
    true,
  );
}

/**
 * A drive that had dropped out is seen again. It works, and is under suspicion; its pool counts it as missing until a
 * rebuild onto it has finished or the unit is recorded to have taken it back whole.
 */
export function returnDrive(unit: UnitState, { serial, note }: Of<'drive-returned'>): UnitState | Refusal {
  return withDrive(
    unit,
    serial,
    (drive) => ({ ...drive, condition: 'suspected', note: note ?? 'dropped out and came back' }),
    false,
  );
}

function withDrive(
  unit: UnitState,
  serial: string,
  change: (drive: DriveInUnit) => DriveInUnit,
  goesMissing: boolean,
): UnitState | Refusal {
  const drive = entryOf(unit.drives, serial);
  if (!drive || drive.bay === null)
    return refusal('drive-not-here', `${serial} is not in any bay of ${unit.name}.`, '/serial');
  const after = { ...unit, drives: { ...unit.drives, [serial]: change(drive) } };
  return frozen(goesMissing ? goMissing(after, [serial]) : after);
}
