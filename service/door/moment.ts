import { refusal, type Refusal } from '../../core/value/refusal';

/** How far a client's clock may be ahead of ours. */
const TOLERANCE_MS = 60_000;

/** Before there were such units. */
const EARLIEST = Date.UTC(1980, 0, 1);

/** When something happened: now when it was not said, and never in the future. */
export function momentOf(text: string | undefined, now: Date): string | Refusal {
  const date = text === undefined ? now : new Date(text);
  if (Number.isNaN(date.getTime()) || date.getTime() < EARLIEST)
    return refusal('no-moment', 'This is no moment anything here can have happened at.', '/happenedAt');
  if (date.getTime() > now.getTime() + TOLERANCE_MS)
    return refusal('in-the-future', 'What is recorded has happened; this time has not come yet.', '/happenedAt');
  return date.toISOString();
}
