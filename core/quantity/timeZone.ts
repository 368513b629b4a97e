const PARTS = {
  year: 'numeric',
  month: 'numeric',
  day: 'numeric',
  hour: 'numeric',
  minute: 'numeric',
  second: 'numeric',
  hourCycle: 'h23',
} as const;

/** Whether this is a time zone by its name in the IANA data base, as “Europe/Berlin”. */
export function isTimeZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

/**
 * How far a zone's clocks are ahead of UTC at a moment, in milliseconds, by the IANA data the platform has; negative where they
 * are behind.
 *
 * @param zone a time zone by name; throws a RangeError for what is none
 * @param at milliseconds since 1970
 * @example aheadOfUtc('Asia/Kolkata', 0) // 19,800,000
 */
export function aheadOfUtc(zone: string, at: number): number {
  const parts = new Intl.DateTimeFormat('en', { ...PARTS, timeZone: zone }).formatToParts(at);
  const of = (type: string): number => Number(parts.find((part) => part.type === type)?.value);
  const there = Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'), of('second'));
  return there - Math.floor(at / 1000) * 1000;
}
