import { YEAR_HOURS } from '../quantity/year';
import { withinHours, type Lasting } from '../risk/simulate/simulatedPool';
import type { NOTICES } from '../../schemas/outlookRequest';

export type Notice = (typeof NOTICES)[number];

/** How a unit is looked after, as far as its years to come depend on it. */
export interface Care {
  readonly notice: Notice;
  /** Days from knowing of a failure to a new drive in hand, where none lies ready. */
  readonly orderDays: number;
  /** Days between two scrubs; `null`: nothing ever reads everything. */
  readonly scrubDays: number | null;
  /** Spares in the drawer that fit. */
  readonly inDrawer: number;
  /**
   * The share of boxes that are lost in a year with every drive in them, 0 to below 1: a supply that burns, water, a fall. Nobody
   * has published one for boxes like these: it is for whoever asks to say, and left out none is.
   */
  readonly boxLossesPerYear?: number;
}

/** From a failure to a hand that does something about it (common practice; the shape is ours). */
export const NOTICED: Readonly<Record<Notice, Lasting>> = Object.freeze({
  'within-the-hour': { leastHours: 0.25, scaleHours: 0.5, shape: 1.5 },
  'same-day': { leastHours: 1, scaleHours: 10, shape: 1.5 },
  'after-a-weekend': { leastHours: 4, scaleHours: 48, shape: 1.5 },
  'after-weeks': { leastHours: 24, scaleHours: 480, shape: 1.5 },
});

/** What is assumed of drives: one end of what is thought possible. */
export interface DriveRates {
  /** The share of drives that fail in a year, in the mean of the first five. */
  readonly failuresPerYear: number;
  /** Weibull shape of their lives: above 1 they fail the more the older they are. */
  readonly shape: number;
  /** So many times as often where a drive shows signs. */
  readonly sickness: number;
  /** Sectors that go bad in a drive in a year. */
  readonly unreadablePerYear: number;
}

/**
 * The two ends. Ages: Weibull shape 1.12 (Elerath and Pecht 2009, from memory), and 1.5, which makes the fifth year 1.7 times as
 * bad as the second (as replacements rise in Schroeder and Gibson 2007; by eye, from memory). Signs: 14 and 39 times as many
 * failures within sixty days of a reallocation or a scan error (Pinheiro, Weber, Barroso 2007, from memory). Sectors: one of
 * eleven drives a year (Bairavasundaram and others 2007, disks of units like these, from memory), and one each 9,259 h (Elerath and Pecht 2009).
 */
export const RATE_ENDS: readonly [Omit<DriveRates, 'failuresPerYear'>, Omit<DriveRates, 'failuresPerYear'>] =
  Object.freeze([
    { shape: 1.12, sickness: 14, unreadablePerYear: 0.095 },
    { shape: 1.5, sickness: 39, unreadablePerYear: YEAR_HOURS / 9259 },
  ]);

/** The rates at one end, the good one or the bad. */
export function ratesAt(end: 0 | 1, failuresPerYear: readonly [number, number]): DriveRates {
  return { ...RATE_ENDS[end], failuresPerYear: failuresPerYear[end] };
}

/** How differently lots fail: the variance of a factor whose mean is 1. An assumption of ours: nobody has published one. */
export const LOT_VARIANCE = 0.5;

/** Over so many years a share a year is a mean. */
const MEAN_OVER_YEARS = 5;

/** The Weibull life of which the mean share fails a year over the first five: the scale that gives it, in hours. */
export function lifeOf({ failuresPerYear, shape }: Pick<DriveRates, 'failuresPerYear' | 'shape'>): {
  readonly shape: number;
  readonly scaleHours: number;
} {
  const passed = -MEAN_OVER_YEARS * Math.log1p(-Math.min(failuresPerYear, 0.99));
  return { shape, scaleHours: (MEAN_OVER_YEARS * YEAR_HOURS) / passed ** (1 / shape) };
}

/**
 * From a sector that went bad to the scrub that finds it: scrubs come at fixed intervals and a sector goes bad at any moment of
 * one, so that it waits half of it in the mean. (Elerath and Pecht's 168 h are a characteristic time to scrub of theirs, and stay that
 * in their case.)
 */
export function foundBy(scrubDays: number | null): Lasting | null {
  return scrubDays === null ? null : withinHours(scrubDays * 24);
}
