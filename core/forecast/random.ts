/** Chance from outside: a number from 0 to below 1. */
export type Random = () => number;

/** A draw from the normal distribution. */
export function normal(random: Random): number {
  return normalPair(random)[0];
}

/** Two draws from the normal distribution that know nothing of each other, for hardly more than one costs (Box and Muller 1958). */
export function normalPair(random: Random): readonly [number, number] {
  const far = Math.sqrt(-2 * Math.log(1 - random()));
  const turn = 2 * Math.PI * random();
  return [far * Math.cos(turn), far * Math.sin(turn)];
}
