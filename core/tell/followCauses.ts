import type { Cause, CauseRoot } from '../upkeep/causes';
import type { NeedCode } from '../upkeep/need';
import { minutesAfter } from '../quantity/days';
import { SEVERITIES } from '../../schemas/tell';
import { severityOf, type Severity } from './severity';

/** What is kept of a cause while it lasts, and for a while after: one is one message, however much comes of it. */
export interface KeptCause {
  readonly id: string;
  readonly unit: string;
  readonly root: CauseRoot;
  readonly code: NeedCode;
  readonly severity: Severity;
  readonly urgency: number;
  /** What in it is more than care, each by its code and drive: another one is another message. */
  readonly grave: readonly string[];
  readonly title: string;
  readonly reason: string;
  /** How much else comes of it. */
  readonly others: number;
  readonly beganAt: string;
  /** When it began, or last got worse; ISO. */
  readonly changedAt: string;
  readonly closedAt: string | null;
  readonly seenAt: string | null;
  readonly seenBy: string | null;
}

/** What becomes of the causes that are kept. */
export interface Followed {
  readonly kind: 'followed';
  readonly begun: readonly Omit<KeptCause, 'id'>[];
  readonly changed: readonly KeptCause[];
}

/** One that comes back so soon is the same: a drive that goes and comes back is no new message each time. */
export const SAME_FOR_MINUTES = 60;

/**
 * Holds what is kept against what there is now. What got worse has to be seen anew; what only got better, or is worded
 * otherwise, has not.
 *
 * @param kept at most one of each unit and root: the open one, or the last that was closed
 * @param now ISO 8601
 */
export function followCauses(kept: readonly KeptCause[], causes: readonly Cause[], now: string): Followed {
  const before = new Map(kept.map((one) => [`${one.unit} ${one.root}`, one]));
  const begun: Omit<KeptCause, 'id'>[] = [];
  const changed: KeptCause[] = [];
  for (const cause of causes) {
    const key = `${cause.unit} ${cause.root}`;
    const was = before.get(key);
    before.delete(key);
    const is = asItIs(cause);
    if (!was || (was.closedAt !== null && minutesAfter(was.closedAt, SAME_FOR_MINUTES) < now)) {
      begun.push({ ...is, beganAt: now, changedAt: now, closedAt: null, seenAt: null, seenBy: null });
      continue;
    }
    const next: KeptCause = {
      ...was,
      ...is,
      closedAt: null,
      ...(isWorse(was, is) ? { changedAt: now, seenAt: null, seenBy: null } : {}),
    };
    if (!isSame(was, next)) changed.push(next);
  }
  for (const was of before.values()) if (was.closedAt === null) changed.push({ ...was, closedAt: now });
  return Object.freeze({ kind: 'followed', begun, changed });
}

type AsItIs = Pick<
  KeptCause,
  'unit' | 'root' | 'code' | 'severity' | 'urgency' | 'grave' | 'title' | 'reason' | 'others'
>;

function asItIs({ unit, root, first, others }: Cause): AsItIs {
  const all = [first, ...others];
  const grave = all.flatMap(({ code, serial, title: words }) =>
    severityOf(code) === 'care' ? [] : [`${code} ${serial ?? words}`],
  );
  return {
    unit,
    root,
    code: first.code,
    severity: SEVERITIES.find((one) => all.some(({ code }) => severityOf(code) === one)) ?? 'care',
    urgency: first.urgency,
    grave: [...new Set(grave)].sort(),
    title: first.title,
    reason: first.reason,
    others: others.length,
  };
}

/** More urgent than it was, or one grave thing more; the drives of a box that is away are no further things. */
function isWorse(was: KeptCause, is: AsItIs): boolean {
  if (is.urgency < was.urgency) return true;
  return is.code !== 'enclosure-away' && is.grave.some((one) => !was.grave.includes(one));
}

function isSame(was: KeptCause, is: KeptCause): boolean {
  return JSON.stringify(was) === JSON.stringify(is);
}
