import { beforeBy, ownRate, type Before, type OwnRate, type Served } from './ownRate';

/** A drive's service, and what it is one of: from the widest to the narrowest, as a model and a lot of it. */
export interface ServedAs extends Served {
  readonly of: readonly string[];
}

/** The rate of those that are one of something, as far down as there are others beside them. */
export interface RateWithin extends OwnRate {
  readonly of: readonly string[];
}

/**
 * How often the drives of each model fail, and of each lot of a model. What is thought of one before anything is seen is what
 * was seen of the others of the level above: their mean rate, spread as the usual range is, and as unsure as so few others leave
 * it. So a model with few drives is taken as the others are, and one that fails more shows it (an empirical Bayes estimate: Gelman
 * et al., Bayesian Data Analysis, 5.1).
 *
 * @param all of one kind of drive; those whose model is not known have nothing they are one of, and count among the others
 */
export function ratesWithin(all: readonly ServedAs[]): RateWithin[] {
  return within(all, [], undefined);
}

function within(all: readonly ServedAs[], above: readonly string[], before: Before | undefined): RateWithin[] {
  const depth = above.length;
  const names = [...new Set(all.flatMap(({ of }) => of[depth] ?? []))].sort();
  return names.flatMap((name) => {
    const of = [...above, name];
    const own = all.filter((one) => one.of[depth] === name);
    const others = all.filter((one) => one.of[depth] !== name);
    // With one drive it is that drive's story, not a rate; a lot that is all of its model says nothing more.
    if (own.length < 2 || (depth > 0 && others.length === 0)) return [];
    const its = others.length === 0 ? before : beforeBy(ownRate(others, before), names.length - 1);
    return [{ of, ...ownRate(own, its) }, ...within(own, of, its)];
  });
}
