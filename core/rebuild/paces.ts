/** How much longer work took than was reckoned for its drives. */
export interface Pace {
  /** What its drives are made of, in order: what one kind teaches says nothing of another. */
  readonly media: string;
  /** So many times as long; above 0. */
  readonly slower: number;
}

/** The newest are kept. */
export const MOST_PACES = 12;

/**
 * How far units differ from what is reckoned, and one unit's work from its next, as standard deviations of the logarithm: together
 * the factor of three from left alone to heavy use (common practice), most of it the unit's own; how it parts is ours.
 */
const OF_UNITS = 0.27;
const OF_WORK = 0.2;
/** What is further off than this says that something else went on: it teaches no more than that. */
const MOST_LOG = Math.log(6);

/** What earlier work teaches of the next. */
export interface Taught {
  /** So many times as long as reckoned, likely. */
  readonly slower: number;
  /** The spread of what is thought of it, as a share of the spread where nothing was seen. */
  readonly spread: number;
  /** How many earlier runs it rests on. */
  readonly runs: number;
}

/**
 * What the finished work of a unit teaches of the next over drives of the same kind: its mean, drawn toward what is reckoned the
 * more the fewer there were (normal with a normal prior, both variances known; Gelman et al., Bayesian Data Analysis, 2.5).
 */
export function taughtBy(paces: readonly Pace[], media: string): Taught {
  const logs = paces
    .filter((pace) => pace.media === media)
    .map(({ slower }) => Math.max(-MOST_LOG, Math.min(MOST_LOG, Math.log(slower))));
  const runs = logs.length;
  const [ofUnits, ofWork] = [OF_UNITS ** 2, OF_WORK ** 2];
  const sum = logs.reduce((all, one) => all + one, 0);
  const left = (ofUnits * ofWork) / (runs * ofUnits + ofWork);
  return {
    slower: Math.exp((ofUnits * sum) / (runs * ofUnits + ofWork)),
    spread: Math.sqrt((left + ofWork) / (ofUnits + ofWork)),
    runs,
  };
}
