import { minutesAfter } from '../quantity/days';
import { isQuiet, type QuietHours } from './quietHours';
import { isAtLeast, type Severity } from './severity';

/** Something people are told: a cause while it lasts, or, once, what became of work. */
export interface ToTell {
  readonly id: string;
  readonly kind: 'cause' | 'news';
  readonly unit: string;
  readonly unitName: string;
  readonly site: string;
  readonly severity: Severity;
  readonly title: string;
  readonly reason: string;
  /** How much else comes of it. */
  readonly others: number;
  /** When it began, or last got worse; ISO. */
  readonly changedAt: string;
  readonly seenAt: string | null;
}

/** Who is told of what, and when not. */
export interface TellRule {
  readonly id: string;
  /** Sites it is about; none means all. */
  readonly sites: readonly string[];
  readonly least: Severity;
  readonly quiet: QuietHours | null;
  /** What nobody has seen is told again after so many hours; `null` is never. */
  readonly repeatHours: number | null;
  /** Since when it is there: what became of work before is no news. */
  readonly since: string;
}

/** That a rule's person was told of something: as it was since `changedAt`, last at `at`. */
export interface Told {
  readonly about: string;
  readonly changedAt: string;
  readonly at: string;
}

/**
 * Whether somebody is to be told of something now. Once as it began and once each time it got worse; what nobody has seen,
 * again and again; in quiet hours only what lowers a margin, the rest after them.
 *
 * @param told what that somebody was last told of it
 * @param now ISO 8601
 */
export function isDue(one: ToTell, rule: TellRule, told: Told | undefined, now: string): boolean {
  if (one.seenAt !== null || !isAtLeast(one.severity, rule.least)) return false;
  if (rule.sites.length > 0 && !rule.sites.includes(one.site)) return false;
  if (one.kind === 'news' && one.changedAt < rule.since) return false;
  if (one.severity !== 'margin' && rule.quiet !== null && isQuiet(rule.quiet, now)) return false;
  if (!told || told.changedAt < one.changedAt) return true;
  return one.kind === 'cause' && isRepeated(one, rule, told, now);
}

/** What comes within so many seconds of one another comes from one thing, more often than not (common practice). */
export const SETTLES_SECONDS = 60;

/**
 * All somebody is to be told at this time: nothing as long as it only just began, so that what comes of one thing, a switch
 * that fails and takes every unit with it, is one message. What lowers a margin waits for nothing, and brings the rest along.
 *
 * @param told by the id of what it is about
 */
export function dueTogether(
  all: readonly ToTell[],
  rule: TellRule,
  told: (id: string) => Told | undefined,
  now: string,
): ToTell[] {
  const due = all.filter((one) => isDue(one, rule, told(one.id), now));
  const isTime = due.some(
    ({ severity, changedAt }) => severity === 'margin' || minutesAfter(changedAt, SETTLES_SECONDS / 60) <= now,
  );
  return isTime ? due : [];
}

function isRepeated({ severity }: ToTell, { repeatHours }: TellRule, { at }: Told, now: string): boolean {
  return repeatHours !== null && severity !== 'care' && minutesAfter(at, repeatHours * 60) <= now;
}
