import type { LifePoint } from '../drive/wearOut';
import type { UnitState } from '../unit/state';
import type { CopyTrouble } from './copyNeeds';
import type { Contradiction } from '../observe/compareObservation';
import type { OpenDemand } from './spareCoverage';

export type NeedCode =
  | 'data-lost'
  | 'pool-stopped'
  | 'enclosure-away'
  | 'on-the-way'
  | 'member-failed'
  | 'no-margin'
  | 'cache-unsafe'
  | 'cache-worn'
  | 'part-lost'
  | 'unit-says-otherwise'
  | 'unit-wrote'
  | 'unit-wrote-failure'
  | 'watch-silent'
  | 'drives-unseen'
  | 'plan-open'
  | 'sign-growing'
  | 'sign-open'
  | CopyTrouble['code']
  | 'slow'
  | 'near-full'
  | 'thin-overcommitted'
  | 'factory-password'
  | 'alarm-mail'
  | 'no-spare'
  | 'upkeep-due'
  | 'warranty-ending'
  | 'firmware-old'
  | 'drive-old'
  | 'wears-out'
  | 'wear-together'
  | 'no-baseline';

/** Something a person has to do, with the reason; most urgent first by `urgency`. */
export interface NeedForHands {
  readonly kind: 'need-for-hands';
  readonly unit: string;
  readonly code: NeedCode;
  readonly title: string;
  readonly reason: string;
  /** Lower is more urgent. */
  readonly urgency: number;
  /** It holds from this moment on; the past for what holds already. */
  readonly from: string;
  /** It no longer holds from this moment on. */
  readonly until?: string;
  /** The plan it is about, when there is one. */
  readonly plan?: string;
  /** The drive it is about. */
  readonly serial?: string;
  /** It holds only as long as drawers within reach do not meet these. */
  readonly unless?: readonly OpenDemand[];
}

/** What comes of a unit being asked: it says otherwise than the record and a person has to look, or it says nothing. */
export interface WatchStanding {
  /** What a person has to look at. */
  readonly doubtful: readonly Pick<Contradiction, 'code' | 'bay' | 'sentence'>[];
  /** Since when it has not answered, where it has not several times in a row; ISO. */
  readonly silentSince?: string;
  readonly why?: string;
}

/** Mails of a unit that wait for a person. */
export interface WaitingLetters {
  readonly count: number;
  /** Of the one that is shown: one of a failure before any other, then the newest. */
  readonly subject: string;
  readonly cameAt: string;
  readonly isOfFailure: boolean;
}

export interface WatchedUnit {
  readonly id: string;
  readonly state: UnitState;
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
  /** Error counts of its drives that have grown. */
  readonly growing?: readonly GrowingCount[];
  /** What its drives of flash said of their rated life, by serial, in order of days. */
  readonly life?: Readonly<Record<string, readonly LifePoint[]>>;
  /** Mails of it that wait for a person. */
  readonly letters?: WaitingLetters;
  /** What it says of itself, where it is asked. */
  readonly watch?: WatchStanding;
}

/** A count of errors that is higher than it was a week before. */
export interface GrowingCount {
  readonly serial: string;
  readonly metric: ErrorMetric;
  readonly before: number;
  readonly beforeDay: string;
  readonly now: number;
}

/** Counts that only a drive going bad makes grow. */
export const ERROR_METRICS = ['reallocated-sectors', 'pending-sectors', 'read-errors'] as const;
export type ErrorMetric = (typeof ERROR_METRICS)[number];

export const ERROR_WORDS: Readonly<Record<ErrorMetric, string>> = {
  'reallocated-sectors': 'reallocated sectors',
  'pending-sectors': 'sectors waiting to be reallocated',
  'read-errors': 'read errors',
};

/** People plan to 80 % of what the unit shows (common practice). */
export const FULL_LINE = 0.8;
/** It holds already. */
export const ALWAYS = '1970-01-01T00:00:00.000Z';

/**
 * One thing that needs hands. Urgency 0 (at once) and up; `from` and `until` (ISO) are when it begins and ends to hold
 * by itself.
 */
export function need(
  { id }: Pick<WatchedUnit, 'id'>,
  code: NeedCode,
  urgency: number,
  title: string,
  reason: string,
  { from = ALWAYS, until, plan, serial }: { from?: string; until?: string; plan?: string; serial?: string } = {},
): NeedForHands {
  return {
    kind: 'need-for-hands',
    unit: id,
    code,
    urgency,
    title,
    reason,
    from,
    ...(until === undefined ? {} : { until }),
    ...(plan === undefined ? {} : { plan }),
    ...(serial === undefined ? {} : { serial }),
  };
}

/** Words as the beginning of a sentence. */
export function sentence(words: string): string {
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}${/[.:]$/.test(words) ? '' : '.'}`;
}
