/** Monday, 5 January 1970, 00:00 UTC: weeks are counted from there. */
const FIRST_MONDAY = 4 * 86_400;
const [DAY, HOUR, WEEK] = [86_400, 3600, 7 * 86_400];

/** Hours that come again and again, in which something takes a share of the speed. By the clock of whoever passes the moments in. */
export interface DayPattern {
  /** On so many days of a week, from Monday on. */
  readonly days: number;
  /** The hour at which it begins; below 0 and beyond 24 it is that of another day. */
  readonly from: number;
  readonly hours: number;
  /** The share of the speed it takes, 0 (nothing) to below 1. */
  readonly depth: number;
}

/** When an office is at work: Monday to Friday, ten hours from eight (common practice). */
export const OFFICE = { days: 5, from: 8, hours: 10 } as const;

/** The share of a week's speed that is taken. */
export function takenShare({ days, hours, depth }: DayPattern): number {
  return (depth * days * hours * HOUR) / WEEK;
}

/**
 * Seconds that work gets between two moments: those outside the hours count whole, those inside only by what is left to it.
 *
 * @param from milliseconds since 1970, as all moments here; not after `to`
 */
export function workedSeconds(from: number, to: number, pattern: DayPattern): number {
  const seconds = (to - from) / 1000;
  return pattern.depth === 0 ? seconds : seconds - pattern.depth * (secondsIn(pattern, to) - secondsIn(pattern, from));
}

/** Seconds within the hours since the first of them; negative before it. */
function secondsIn({ days, from, hours }: DayPattern, ms: number): number {
  const since = ms / 1000 - FIRST_MONDAY - from * HOUR;
  const week = Math.floor(since / WEEK);
  const inWeek = since - week * WEEK;
  const day = Math.floor(inWeek / DAY);
  const today = day < days ? Math.min(hours * HOUR, inWeek - day * DAY) : 0;
  return (week * days + Math.min(day, days)) * hours * HOUR + today;
}
