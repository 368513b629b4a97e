import type { UpkeepTask } from '../unit/state';

/** More steps than any life of a unit has. */
const MOST_STEPS = 40_000;

/**
 * The first day of a task's rule after a given day, as RFC 5545 counts: every so many days, weeks, months or years
 * from its first day; a month or a year that has no such day (the 31st, 29 February) is passed over.
 *
 * @param after a day (2026-01-31); left out means the first day of the rule itself
 * @returns a day, or `null` when it never comes again: done once, or a rule that names a day no month of it has
 */
export function nextOccurrence(
  { from, every, unit }: Pick<UpkeepTask, 'from' | 'every' | 'unit'>,
  after?: string,
): string | null {
  if (unit === 'once') return after === undefined ? from : null;
  if (after === undefined || after < from) return from;
  const [year, month, day] = from.split('-').map(Number) as [number, number, number];
  const at = (k: number): Date => {
    if (unit === 'day' || unit === 'week')
      return new Date(Date.UTC(year, month - 1, day + k * every * (unit === 'week' ? 7 : 1)));
    return unit === 'month'
      ? new Date(Date.UTC(year, month - 1 + k * every, day))
      : new Date(Date.UTC(year + k * every, month - 1, day));
  };
  // Starts near the day looked for: no rule is walked from its beginning over decades.
  const span = { day: 1, week: 7, month: 31, year: 366 }[unit] * every;
  const first = Math.max(0, Math.floor((Date.parse(after) - Date.parse(from)) / (span * 24 * 3600e3)) - 1);
  for (let k = first; k < first + MOST_STEPS; k++) {
    const date = at(k);
    if (date.getUTCDate() !== day && (unit === 'month' || unit === 'year')) continue;
    const found = date.toISOString().slice(0, 10);
    if (found > after) return found;
  }
  return null;
}
