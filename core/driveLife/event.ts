import type { Recorded } from '../ledger/recorded';
import type { DriveEventBody } from '../../schemas/driveEvent';

/** What happened to a drive outside of units, and that it went into one or came out. */
export type DriveEvent = DriveEventBody;

export type RecordedDriveEvent = Recorded<DriveEvent>;

export type OfDrive<K extends DriveEvent['kind']> = Extract<DriveEvent, { kind: K }>;
