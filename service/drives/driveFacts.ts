import type { DriveLife } from '../../core/driveLife/life';
import type { NewDrive } from '../../core/plan/makers/handsOnDrive';

/** What a drive's own ledger knows of it, as a plan needs it. */
export function driveFacts({ drive: { bytes, basis, label, model, media } }: DriveLife): Omit<NewDrive, 'serial'> {
  return { bytes, basis, ...(label === undefined ? {} : { label }), ...(model === undefined ? {} : { model }), ...(media === undefined ? {} : { media }) };
}
