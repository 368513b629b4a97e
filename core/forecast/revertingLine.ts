import type { Days } from './byDay';
import { normal, type Random } from './random';
import { drawnBy, drawnLine, type Heard } from './strayingLine';

/**
 * A straight line that use comes back to: what is put beside it for a while is cleared away again. What is off the line is an
 * Ornstein-Uhlenbeck process, so that readings may lie however far apart (generalised least squares with errors that fade;
 * Gelman et al., Bayesian Data Analysis, 14.7). It strays no further in ten years than in one.
 */

const { exp, log, sqrt } = Math;

/** What a history says where what is off fades within so many days. */
export interface Reverting extends Pick<Heard, 'evidence' | 'scale' | 'degrees' | 'level' | 'rate' | 'unknown'> {
  /** Days after which what is off is mostly gone. */
  readonly lasts: number;
  /** What it is off at the last reading. */
  readonly off: number;
}

/** Days in which it may fade. */
const LASTS = [2, 8, 30];

/**
 * A history as it is heard by each time in which it may fade.
 *
 * @param days at least three
 */
export function heardReverting(days: Days): readonly Reverting[] {
  return LASTS.map((lasts) => heardBy(days, lasts));
}

/** Least squares after each reading is freed of what is left in it of the one before; `scale` is what is off by, squared. */
function heardBy({ day, bytes }: Days, lasts: number): Reverting {
  const last = day.at(-1) as number;
  // Counted from the first: sums of squares of what is used would leave no digits for what it strays.
  const base = bytes[0] as number;
  // Sums of the normal equations over (1, days before the last reading), each weighed by what is new in it.
  let [s00, s01, s11, b0, b1, squares, logs] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < day.length; i++) {
    const keep = i === 0 ? 0 : exp(-((day[i] as number) - (day[i - 1] as number)) / lasts);
    const fresh = 1 - keep * keep;
    const x0 = 1 - keep;
    const x1 = (day[i] as number) - last - (i === 0 ? 0 : keep * ((day[i - 1] as number) - last));
    const y = (bytes[i] as number) - base - (i === 0 ? 0 : keep * ((bytes[i - 1] as number) - base));
    s00 += (x0 * x0) / fresh;
    s01 += (x0 * x1) / fresh;
    s11 += (x1 * x1) / fresh;
    b0 += (x0 * y) / fresh;
    b1 += (x1 * y) / fresh;
    squares += (y * y) / fresh;
    logs += log(fresh);
  }
  const det = s00 * s11 - s01 * s01;
  const above = (s11 * b0 - s01 * b1) / det;
  const rate = (s00 * b1 - s01 * b0) / det;
  const left = Math.max(0, squares - above * b0 - rate * b1);
  const degrees = Math.max(1, day.length - 2);
  return {
    // Of all readings but the first two, which only say where a line begins: as `strayingLine` has it.
    evidence:
      -(degrees / 2) * log(left || Number.MIN_VALUE) -
      logs / 2 -
      log(det) / 2 +
      log((day[1] as number) - (day[0] as number)),
    scale: left / degrees,
    degrees,
    level: base + above,
    rate,
    unknown: [s11 / det, -s01 / det, s00 / det],
    lasts,
    off: (bytes.at(-1) as number) - base - above,
  };
}

/**
 * One way it may go on.
 *
 * @param ahead days from now, rising, as far apart as the first is from now
 * @returns the slope of now (bytes a day), and what is used on each day
 */
export function drawnReverting(
  heard: readonly Reverting[],
  ahead: readonly number[],
  random: Random,
): { readonly slope: number; readonly used: readonly number[] } {
  const one = drawnBy(heard, random);
  const { scale, level, rate } = drawnLine(one, random);
  const keep = exp(-(ahead[0] ?? 1) / one.lasts);
  const fresh = sqrt((1 - keep * keep) * scale);
  // What is used now is read, and does not stray: what the line is lower, that is off.
  let off = one.off + one.level - level;
  const used = ahead.map((day) => {
    off = keep * off + fresh * normal(random);
    return level + rate * day + off;
  });
  return { slope: rate, used };
}
