/** Monday, 5 January 1970, 00:00 UTC: weeks are counted from there. */
const FIRST_MONDAY = 4 * 86_400;
const [DAY, HOUR, WEEK] = [86_400, 3600, 7 * 86_400];
/** When an office is at work: Monday to Friday, ten hours from eight (common practice). By the clock of whoever passes the moments in. */
const OFFICE = { days: 5, from: 8 * HOUR, hours: 10 * HOUR } as const;

/** Share of a week that is office hours. */
export const OFFICE_SHARE = (OFFICE.days * OFFICE.hours) / WEEK;

/**
 * Seconds that work gets between two moments when people at the office slow it down: those outside office hours count
 * whole, those inside only by what is left to it.
 *
 * @param from milliseconds since 1970, as all moments here; not after `to`
 * @param depth share of the speed that people take in office hours, 0 (nothing) to below 1
 */
export function workedSeconds(from: number, to: number, depth: number): number {
  const seconds = (to - from) / 1000;
  return depth === 0 ? seconds : seconds - depth * (officeSecondsUntil(to) - officeSecondsUntil(from));
}

/** Office seconds since the first Monday; negative before it. */
function officeSecondsUntil(ms: number): number {
  const since = ms / 1000 - FIRST_MONDAY;
  const week = Math.floor(since / WEEK);
  const inWeek = since - week * WEEK;
  const day = Math.floor(inWeek / DAY);
  const today = day < OFFICE.days ? Math.min(OFFICE.hours, Math.max(0, inWeek - day * DAY - OFFICE.from)) : 0;
  return (week * OFFICE.days + Math.min(day, OFFICE.days)) * OFFICE.hours + today;
}
