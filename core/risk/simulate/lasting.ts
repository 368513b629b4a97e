import { logGamma } from '../gammaLaw';
import type { Lasting } from './simulatedPool';

/** Draws a duration, in hours. */
export function draw({ leastHours, scaleHours, shape, upToHours }: Lasting, random: () => number): number {
  if (upToHours !== undefined) return leastHours + upToHours * random();
  if (scaleHours === 0) return leastHours;
  const exponential = -Math.log(1 - random());
  return leastHours + scaleHours * (shape === 1 ? exponential : exponential ** (1 / shape));
}

/** The mean of a law, in hours: the least plus scale × Γ(1 + 1/shape), or plus half of what may come. */
export function meanOf({ leastHours, scaleHours, shape, upToHours }: Lasting): number {
  if (upToHours !== undefined) return leastHours + upToHours / 2;
  return scaleHours === 0 ? leastHours : leastHours + scaleHours * Math.exp(logGamma(1 + 1 / shape));
}

/** Steps of Simpson's rule for the mean of the lesser. */
const STEPS = 128;

/** The mean of the lesser of a duration and a number of hours: ∫₀ʰ P(duration > u) du. */
export function meanUpTo({ leastHours, scaleHours, shape, upToHours }: Lasting, hours: number): number {
  if (hours <= leastHours) return Math.max(0, hours);
  if (upToHours !== undefined) {
    const by = Math.min(hours - leastHours, upToHours);
    return leastHours + by - by ** 2 / (2 * upToHours);
  }
  if (scaleHours === 0) return leastHours;
  const upTo = hours - leastHours;
  // Beyond twenty scales of an exponential, and sooner of what ages, less than 10⁻⁸ is left.
  const end = Math.min(upTo, scaleHours * 20 ** (1 / shape));
  let sum = 0;
  for (let i = 0; i <= STEPS; i++)
    sum += (i === 0 || i === STEPS ? 1 : i % 2 === 1 ? 4 : 2) * Math.exp(-(((end * i) / STEPS / scaleHours) ** shape));
  return leastHours + (sum * end) / (3 * STEPS);
}

/** Points of a table, up to so many means: beyond, nothing more comes to it. */
const POINTS = 400;
const MEANS = 20;

/** The same as a table for asking again and again, straight between its points. */
export function meansUpTo(law: Lasting): (hours: number) => number {
  const end = MEANS * meanOf(law);
  const table = Float64Array.from({ length: POINTS + 1 }, (_, i) => meanUpTo(law, (end * i) / POINTS));
  return (hours) => {
    const at = Math.max(0, Math.min(POINTS, (hours / end) * POINTS));
    const below = Math.min(POINTS - 1, Math.floor(at));
    return (table[below] as number) + (at - below) * ((table[below + 1] as number) - (table[below] as number));
  };
}

/** Draws a gamma variable of scale 1 (Marsaglia and Tsang 2000), for shapes from 1; below, by the power of a uniform. */
export function drawGamma(shape: number, random: () => number): number {
  if (shape < 1) return drawGamma(shape + 1, random) * (1 - random()) ** (1 / shape);
  const d = shape - 1 / 3;
  const c = 1 / Math.sqrt(9 * d);
  for (;;) {
    // Box and Muller's normal variable.
    const x = Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const v = (1 + c * x) ** 3;
    if (v > 0 && Math.log(1 - random()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
  }
}
