import { DAY_MS } from '../quantity/days';
import { YEAR_DAYS } from '../quantity/year';
import { countsOf, mixtureAfter, mixtureMean, mixtureQuantile, type GammaPart } from './gammaMixture';

/**
 * What is thought before anything is seen, failures a drive-year. Seven of eight are as is usual; one of eight may be anything,
 * for there are models that fail ten times as often, and nobody is to be told otherwise for years. Both together lie four times in
 * five between the data sheet's 0.9 % and the 4 % of field studies (see USUAL_FAILURES_PER_YEAR).
 */
const USUAL: GammaPart = { weight: 0.88, shape: 4.23528086, rate: 207.36625345 };
const ANY: GammaPart = { weight: 0.12, shape: 1, rate: 1 / 0.06 };
const PRIOR_MEAN = mixtureMean([USUAL, ANY]);
/** Four times in five. */
const [LOW, HIGH] = [0.1, 0.9] as const;
/** What is usual brings so many or more, or so few or fewer, once in forty: then it is told. */
const RARE = 0.025;

/** A drive's years in units, and whether it failed there, as far as the record goes. */
export interface Served {
  readonly years: number;
  readonly failures: number;
}

/** How often the drives of one house fail. Shares a year: 0.02 is two of a hundred drives. */
export interface OwnRate extends Served {
  readonly kind: 'own-rate';
  readonly drives: number;
  /** What was usual elsewhere, sharpened by what was seen here: the mean, and the span that holds it four times in five. */
  readonly likely: number;
  readonly low: number;
  readonly high: number;
  /** As many failures were to be expected in that time, four times in five, by what was thought before. */
  readonly expected: readonly [low: number, high: number];
  /** What was seen disagrees with that; left out where it does not. */
  readonly differs?: 'more' | 'fewer';
}

/** What is thought of a rate before anything is seen of it. */
export interface Before {
  /** Failures a drive-year. */
  readonly mean: number;
  /** What is not known of that mean itself: its variance as a share of its square. */
  readonly unsure: number;
}

/** What is thought of drives of which nothing is known. */
const USUAL_BEFORE: Before = { mean: PRIOR_MEAN, unsure: 0 };

/**
 * What is thought of some, by what was seen of the others beside them: of their mean, which is known the better the more of them
 * failed and the more there are that may each be different.
 */
export function beforeBy(others: OwnRate, kinds: number): Before {
  return {
    mean: others.likely,
    unsure: 1 / (USUAL.shape + others.failures) + 1 / USUAL.shape / Math.max(1, kinds),
  };
}

/**
 * The failure rate of one's own drives: a mixture of two gamma laws beforehand, Poisson failures over drive-years (`mixtureAfter`).
 * With nothing seen it is the usual range.
 *
 * @param before what is thought before anything is seen, spread as the usual range is; left out means the usual range
 */
export function ownRate(served: readonly Served[], before: Before = USUAL_BEFORE): OwnRate {
  const years = served.reduce((sum, of) => sum + of.years, 0);
  const failures = served.reduce((sum, of) => sum + of.failures, 0);
  const [usual, any] = [USUAL, ANY].map(({ weight, shape, rate }): GammaPart => {
    const wider = 1 / (1 / shape + before.unsure);
    return { weight, shape: wider, rate: (wider * rate * PRIOR_MEAN) / (shape * before.mean) };
  }) as [GammaPart, GammaPart];
  const after = mixtureAfter([usual, any], failures, years);
  const { expected, differs } = heldAgainst(usual, failures, years);
  return Object.freeze({
    kind: 'own-rate',
    drives: served.length,
    years,
    failures,
    likely: mixtureMean(after),
    low: mixtureQuantile(after, LOW),
    high: mixtureQuantile(after, HIGH),
    expected,
    ...(differs === undefined ? {} : { differs }),
  });
}

/** What was usual would have brought, beside what came. */
function heldAgainst(usual: GammaPart, failures: number, years: number): Pick<OwnRate, 'expected' | 'differs'> {
  const counts = countsOf(usual, years, failures + Math.ceil(10 * (usual.shape / usual.rate) * years) + 20);
  let sum = 0;
  const below = counts.map((one) => (sum += one));
  const upTo = (chance: number): number => below.findIndex((one) => one >= chance);
  const expected = [upTo(LOW), upTo(HIGH)] as const;
  if (1 - (below[failures - 1] ?? 0) < RARE) return { expected, differs: 'more' };
  return (below[failures] as number) < RARE ? { expected, differs: 'fewer' } : { expected };
}

/**
 * What a drive's story is made of, as far as its service goes. `back`: it had not failed, it had only dropped out. `elsewhere`: it
 * lay in a drawer, or was sent away, so it served no more, whether anybody wrote that it was taken out or not.
 */
export interface ServiceMark {
  readonly what: 'fitted' | 'taken-out' | 'elsewhere' | 'failed' | 'back';
  /** ISO 8601. */
  readonly at: string;
}

const YEAR_MS = YEAR_DAYS * DAY_MS;

/**
 * How long a drive has been in service, and how often it failed: from each fitting until it was taken out, lay elsewhere, failed, or now.
 *
 * @param marks in any order
 */
export function servedOf(marks: readonly ServiceMark[], now: string): Served {
  let since: number | null = null;
  let [served, failures] = [0, 0];
  /** When it failed, as long as it may turn out that it had only dropped out. */
  let failedAt: number | null = null;
  const end = Date.parse(now);
  for (const { what, at } of [...marks].sort((a, b) => (a.at < b.at ? -1 : Number(a.at > b.at)))) {
    // A clock that was ahead makes no service.
    const ms = Math.min(end, Date.parse(at));
    if (what === 'fitted') [since, failedAt] = [since ?? ms, null];
    if (what === 'failed' && since !== null) {
      served += ms - since;
      failures++;
      [since, failedAt] = [null, ms];
    }
    if (what === 'back' && failedAt !== null) {
      failures--;
      [since, failedAt] = [failedAt, null];
    }
    if ((what === 'taken-out' || what === 'elsewhere') && since !== null) {
      served += ms - since;
      since = null;
    }
  }
  if (since !== null) served += end - since;
  return { years: served / YEAR_MS, failures };
}
