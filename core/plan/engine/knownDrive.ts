import { serialKey } from '../../drive/serial';
import { whichSerial } from '../../drive/whichSerial';
import { whereWords } from '../../driveLife/driveEventWords';
import type { DriveLife } from '../../driveLife/life';
import { sicknessOf } from '../../driveLife/sickness';
import type { StandsThere } from '../../unit/standsThere';
import { poolOfDrive, type UnitState } from '../../unit/state';
import { driveFacts, type DriveFacts } from './driveFacts';

/** What a drive's own ledger says of the drive in hand. */
export interface KnownDrive {
  readonly serial: string;
  readonly facts: DriveFacts;
  /** Why it is no drive to trust: "showed signs when it came out on …". */
  readonly sick?: string;
  /** The pool whose data it still holds. */
  readonly holds?: { readonly pool: string; readonly name: string; readonly unitName: string };
  /** Where it is on record, where that is not in hand or in a drawer. */
  readonly elsewhere?: string;
  /** What it is to another unit that counts on it. */
  readonly there?: StandsThere;
  /** Its size was read in this plan, and what that means was decided there. */
  readonly isRead?: true;
}

/** What is recorded of the drive whose serial was read, where that is more than the plan knew. */
export type Knows = (typed: string) => KnownDrive | undefined;

/**
 * What a drive's own ledger says of it, as a plan asks: its facts, and what speaks against it. Total.
 *
 * @param there what another unit makes of it, where that was looked up
 */
export function knownDrive(
  { serial, drive, where, sick, tested, holds }: DriveLife,
  there: StandsThere | null = null,
): KnownDrive {
  const sickness = sicknessOf({ sick, tested });
  return {
    serial,
    facts: driveFacts(drive),
    ...(sickness && !sickness.isTestedWell ? { sick: sickness.words } : {}),
    ...(holds ? { holds } : {}),
    ...(where.kind === 'in-hand' || where.kind === 'drawer' ? {} : { elsewhere: whereWords(where) }),
    ...(there ? { there } : {}),
  };
}

/**
 * The drive that is meant by what was read: one of those in question where it is one, the one its own ledger knows,
 * otherwise one that nobody knows.
 */
export function serialMeant(
  unit: UnitState,
  typed: string,
  expects?: string,
  known?: Pick<KnownDrive, 'serial'>,
): string {
  const inQuestion = Object.values(unit.drives).flatMap(({ serial, bay }) =>
    bay !== null || poolOfDrive(unit, serial) ? serial : [],
  );
  return (
    whichSerial(typed, expects === undefined ? inQuestion : [...inQuestion, expects]) ??
    known?.serial ??
    serialKey(typed)
  );
}
