/** Chance from outside: a number from 0 to below 1. */
export type Random = () => number;

/** A draw from the normal distribution, by Box and Muller 1958. */
export function normal(random: Random): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
