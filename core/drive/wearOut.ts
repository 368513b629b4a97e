import { YEAR_DAYS } from '../quantity/year';
import { DAY_MS, daysBetween } from '../quantity/days';

/** What a drive of flash said of itself on a day: the share of its rated life that is left, in whole percents, cut off. */
export interface LifePoint {
  /** As 2026-01-31. */
  readonly day: string;
  /** 0 to 100. */
  readonly left: number;
}

/** When a drive of flash will have taken all the writes it is rated for. */
export interface WearOut {
  readonly kind: 'wear-out';
  /** As it was read last. */
  readonly left: number;
  readonly day: string;
  /** Percent of the rated life a year: as slow, as likely and as fast as it has worn. */
  readonly perYear: readonly [slow: number, likely: number, fast: number];
  /** First, likely and last day its rating is used up; `last` is `null` beyond fifteen years. */
  readonly ends: { readonly first: string; readonly likely: string; readonly last: string | null };
}

/** Nobody plans further. */
const MOST_DAYS = 15 * YEAR_DAYS;
/** Below so many days a whole percent says nothing of the pace. */
const LEAST_DAYS = 28;
/** The pace is seen over all that was read, over the last year, over the last quarter. */
const WINDOWS = [Infinity, YEAR_DAYS, 91] as const;
/** What is written in the years to come differs from what was by so much more, or less (common practice). */
const OTHER_YEARS = 1.25;

/**
 * When the rating of a drive of flash is used up, from what it said of its life: the pace is what all stretches agree on that
 * were read (each known to a percent at either end), or what lies between them where it has changed.
 *
 * @param points in order of days, one a day; of those that say the same in a row, the first and the last are enough
 * @returns `null` where that is not to be told: less than four weeks, no percent lost yet, or not within fifteen years
 * @example wearOut([{ day: '2025-01-01', left: 90 }, { day: '2026-01-01', left: 80 }]) // about eight years on, 2034
 */
export function wearOut(points: readonly LifePoint[]): WearOut | null {
  const now = points.at(-1);
  if (!now) return null;
  const since = points.slice(lastRise(points));
  const paces = WINDOWS.flatMap((window) => {
    const i = Math.max(
      0,
      since.findLastIndex(({ day }) => daysBetween(day, now.day) >= window),
    );
    const then = since[i] as LifePoint;
    // Between two days that say the same it was the same: nothing depends on how many of those between were kept.
    const isHeld = since[i + 1]?.left === then.left;
    const days = isHeld ? Math.min(window, daysBetween(then.day, now.day)) : daysBetween(then.day, now.day);
    return days < LEAST_DAYS ? [] : [{ days, lost: then.left - now.left }];
  });
  const last = paces[1];
  if (!last || (paces[0]?.lost ?? 0) <= 0) return null;
  // Both ends are cut off to whole percents: what was lost is known to one either way.
  const least = Math.max(0, ...paces.map(({ lost, days }) => (lost - 1) / days));
  const most = Math.min(...paces.map(({ lost, days }) => (lost + 1) / days));
  const seen = paces.map(({ lost, days }) => lost / days);
  const [slow, fast] = least <= most ? [least, most] : [Math.min(...seen), Math.max(...seen)];
  const likely = Math.min(fast, Math.max(slow, last.lost / last.days));
  if (likely === 0 || (now.left + 0.5) / likely > MOST_DAYS) return null;
  const end = (left: number, pace: number): string | null =>
    left / pace > MOST_DAYS ? null : dayAfter(now.day, left / pace);
  return Object.freeze({
    kind: 'wear-out',
    left: now.left,
    day: now.day,
    perYear: [slow, likely, fast].map((pace) => pace * YEAR_DAYS) as unknown as WearOut['perYear'],
    ends: Object.freeze({
      first: dayAfter(now.day, now.left / (fast * OTHER_YEARS)),
      likely: dayAfter(now.day, (now.left + 0.5) / likely),
      last: end(now.left + 1, slow / OTHER_YEARS),
    }),
  });
}

/** Where what is left rose last: another drive under the serial, or another way of counting; what was before says nothing. */
function lastRise(points: readonly LifePoint[]): number {
  for (let i = points.length - 1; i > 0; i--)
    if ((points[i] as LifePoint).left > (points[i - 1] as LifePoint).left) return i;
  return 0;
}

function dayAfter(day: string, days: number): string {
  return new Date(Date.parse(day) + Math.round(days) * DAY_MS).toISOString().slice(0, 10);
}

/** Members whose ratings are used up so close to one another that the second may go before the first is replaced, in days. */
const TOGETHER_DAYS = 60;

/**
 * Members of a pool that wear out together: more of them, within sixty days of one another, than the pool can lose.
 *
 * @param margin how many members may fail, 0 and up
 * @returns the earliest such group in order of their likely ends; empty where there is none
 */
export function wearTogether<T extends { readonly ends: WearOut['ends'] }>(members: readonly T[], margin: number): T[] {
  const sorted = [...members].sort((a, b) => (a.ends.likely < b.ends.likely ? -1 : 1));
  for (const [i, first] of sorted.entries()) {
    const group = sorted.slice(i).filter(({ ends }) => daysBetween(first.ends.likely, ends.likely) <= TOGETHER_DAYS);
    if (group.length > Math.max(1, margin)) return group;
  }
  return [];
}

/** "until about 2027-03-01 (2026-12-11 to 2027-06-30)". */
export function untilWords({ ends: { first, likely, last } }: WearOut): string {
  return `until about ${likely} (${first} ${last === null ? 'at the earliest' : `to ${last}`})`;
}
