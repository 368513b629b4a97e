import type { DriveEventBody } from '../../schemas/driveEvent';

/** What happened to a drive outside of units, and that it went into one or came out. */
export type DriveEvent = DriveEventBody;

export interface RecordedDriveEvent {
  readonly seq: number;
  readonly happenedAt: string;
  readonly event: DriveEvent;
}

export type OfDrive<K extends DriveEvent['kind']> = Extract<DriveEvent, { kind: K }>;
