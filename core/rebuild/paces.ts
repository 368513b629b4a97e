/** How much longer work took than was reckoned for its drives. */
export interface Pace {
  /** What its drives are made of, in order: what one kind teaches says nothing of another. */
  readonly media: string;
  /** So many times as long; above 0. */
  readonly slower: number;
  /** How the run went, of the newest: what it says of the unit's hours. */
  readonly run?: RunKept;
}

/** When a finished run began, and how far it had come at some moments. */
export interface RunKept {
  /** ISO 8601. */
  readonly begun: string;
  /** Minutes since then, and thousandths of its time at full speed that were passed. */
  readonly passed: readonly (readonly [minutes: number, thousandths: number])[];
}

/** The newest are kept, and of fewer how they went. */
export const MOST_PACES = 12;
const MOST_RUNS = 3;

/** What a unit keeps of its finished work, one more at the end. */
export function withPace(paces: readonly Pace[], pace: Pace): readonly Pace[] {
  const kept = [...paces, pace].slice(-MOST_PACES);
  return kept.map(({ run, ...rest }, i) =>
    run === undefined || i < kept.length - MOST_RUNS ? rest : { ...rest, run },
  );
}

/**
 * How far families differ from what is reckoned, units of a family from one another, and one unit's work from its next, as
 * standard deviations of the logarithm: together the factor of three from left alone to heavy use (common practice); how it
 * parts is ours.
 */
const OF_FAMILIES = 0.2;
const OF_UNITS = 0.18;
const OF_WORK = 0.2;
/** What is further off than this says that something else went on: it teaches no more than that. */
const MOST_LOG = Math.log(6);

/** What earlier work teaches of the next. */
export interface Taught {
  /** So many times as long as reckoned, likely. */
  readonly slower: number;
  /** The spread of what is thought of it, as a share of the spread where nothing was seen. */
  readonly spread: number;
  /** How many earlier runs of the unit it rests on, and of others of its family. */
  readonly runs: number;
  readonly family: number;
}

/**
 * What finished work teaches of the next of a unit over drives of the same kind: its own runs, and what the other units of its
 * family have in common, each drawn toward what is reckoned the more the fewer there were (normal means in two levels, all
 * variances known; Gelman et al., Bayesian Data Analysis, 2.5 and 5.4).
 *
 * @param own of the unit itself
 * @param others of the other units of its family, unit by unit
 */
export function taughtBy(own: readonly Pace[], media: string, others: readonly (readonly Pace[])[] = []): Taught {
  const logsOf = (paces: readonly Pace[]): number[] =>
    paces
      .filter((pace) => pace.media === media)
      .map(({ slower }) => Math.max(-MOST_LOG, Math.min(MOST_LOG, Math.log(slower))));
  const [ofFamilies, ofUnits, ofWork] = [OF_FAMILIES ** 2, OF_UNITS ** 2, OF_WORK ** 2];
  // The family: what each other unit says of it is off by that unit, and by the mean of its work.
  let [weight, sum, family] = [1 / ofFamilies, 0, 0];
  for (const logs of others.map(logsOf).filter(({ length }) => length > 0)) {
    const says = 1 / (ofUnits + ofWork / logs.length);
    weight += says;
    sum += says * mean(logs);
    family += logs.length;
  }
  const [expected, spread] = [sum / weight, 1 / weight + ofUnits];
  const logs = logsOf(own);
  const runs = logs.length;
  const left = 1 / (1 / spread + runs / ofWork);
  const likely = left * (expected / spread + (runs === 0 ? 0 : (runs * mean(logs)) / ofWork));
  return {
    slower: Math.exp(likely),
    spread: Math.sqrt((left + ofWork) / (ofFamilies + ofUnits + ofWork)),
    runs,
    family,
  };
}

function mean(of: readonly number[]): number {
  return of.reduce((all, one) => all + one, 0) / of.length;
}
