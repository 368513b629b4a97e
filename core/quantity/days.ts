export const DAY_MS = 24 * 3600e3;

/** The moment so many days later (earlier when negative), ISO 8601 in UTC. */
export function daysAfter(moment: string, days: number): string {
  return new Date(Date.parse(moment) + days * DAY_MS).toISOString();
}

/** The moment so many minutes later, ISO 8601 in UTC. */
export function minutesAfter(moment: string, minutes: number): string {
  return new Date(Date.parse(moment) + minutes * 60_000).toISOString();
}

/** The day a moment falls on in UTC, as 2026-01-31. */
export function dayOf(moment: string): string {
  return moment.slice(0, 10);
}

/** A day as its first moment in UTC. */
export function startOfDay(day: string): string {
  return `${day}T00:00:00.000Z`;
}

/** Days from one moment to another (ISO 8601), parts of a day too; negative when the second comes first. */
export function daysBetween(from: string, to: string): number {
  return (Date.parse(to) - Date.parse(from)) / DAY_MS;
}
