import { DAY_MS } from '../quantity/days';
import { YEAR_DAYS } from '../quantity/year';
import { gammaQuantile } from './gammaLaw';

/**
 * What is thought before anything is seen: failures a drive-year as a gamma variable that lies four times in five between the
 * data sheet's 0.9 % and the 4 % of field studies (see USUAL_FAILURES_PER_YEAR). It weighs as much as so many drive-years.
 */
const PRIOR = { shape: 3.305077903576, driveYears: 143.5712412868 } as const;
/** Four times in five. */
const [LOW, HIGH] = [0.1, 0.9] as const;

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
}

/**
 * The failure rate of one's own drives: gamma prior, Poisson failures over drive-years, so that the posterior is gamma with
 * both added up (Gelman et al., Bayesian Data Analysis, 2.6). With nothing seen it is the usual range.
 *
 * @param mean what is thought before anything is seen, failures a drive-year, as uncertain as the usual range; left out means that
 */
export function ownRate(served: readonly Served[], mean = PRIOR.shape / PRIOR.driveYears): OwnRate {
  const years = served.reduce((sum, of) => sum + of.years, 0);
  const failures = served.reduce((sum, of) => sum + of.failures, 0);
  const [shape, rate] = [PRIOR.shape + failures, PRIOR.shape / mean + years];
  return Object.freeze({
    kind: 'own-rate',
    drives: served.length,
    years,
    failures,
    likely: shape / rate,
    low: gammaQuantile(shape, LOW) / rate,
    high: gammaQuantile(shape, HIGH) / rate,
  });
}

/** What a drive's story is made of, as far as its service goes. `back`: it had not failed, it had only dropped out. */
export interface ServiceMark {
  readonly what: 'fitted' | 'taken-out' | 'failed' | 'back';
  /** ISO 8601. */
  readonly at: string;
}

const YEAR_MS = YEAR_DAYS * DAY_MS;

/**
 * How long a drive has been in service, and how often it failed: from each fitting until it was taken out, failed, or now.
 *
 * @param marks in any order
 */
export function servedOf(marks: readonly ServiceMark[], now: string): Served {
  let since: number | null = null;
  let [served, failures] = [0, 0];
  /** When it failed, as long as it may turn out that it had only dropped out. */
  let failedAt: number | null = null;
  for (const { what, at } of [...marks].sort((a, b) => (a.at < b.at ? -1 : Number(a.at > b.at)))) {
    const ms = Date.parse(at);
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
    if (what === 'taken-out' && since !== null) {
      served += ms - since;
      since = null;
    }
  }
  if (since !== null) served += Math.max(0, Date.parse(now) - since);
  return { years: served / YEAR_MS, failures };
}
