import { isTimeZone } from '../quantity/timeZone';
import { refusal, type Refusal } from '../value/refusal';

/** Hours of the day in which only what lowers a margin rings. */
export interface QuietHours {
  /** HH:MM on the clock of the zone; from after to goes over midnight. */
  readonly from: string;
  readonly to: string;
  /** A zone by its name in the time zone database, as "Europe/Lisbon". */
  readonly zone: string;
}

/**
 * True while it is quiet. The end itself is no longer quiet; equal ends are no hours at all.
 *
 * @param now ISO 8601
 */
export function isQuiet({ from, to, zone }: QuietHours, now: string): boolean {
  const time = clockIn(zone, now);
  return from <= to ? from <= time && time < to : from <= time || time < to;
}

/** What the clock shows in a zone, HH:MM; in UTC where the zone is none. */
export function clockIn(zone: string, now: string): string {
  const clock = new Intl.DateTimeFormat('en-GB', {
    timeZone: isTimeZone(zone) ? zone : 'UTC',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  return clock.format(new Date(now));
}

/** Why hours cannot be kept quiet; none where there are none. */
export function whyNotQuiet(quiet: QuietHours | null | undefined): Refusal | undefined {
  if (!quiet) return undefined;
  if (!isTimeZone(quiet.zone))
    return refusal('no-zone', `"${quiet.zone}" is no time zone: one is called as "Europe/Lisbon" is.`, '/quiet/zone');
  return quiet.from === quiet.to
    ? refusal('no-hours', 'Quiet hours that end when they begin are none: leave them out.', '/quiet/to')
    : undefined;
}
