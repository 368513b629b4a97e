import type { Days } from './byDay';
import { TB, TIB } from '../quantity/bytes';
import { median } from './median';

/** All at once, from one day to the next: a large import, or much thrown away. */
export interface Jump {
  /** The day after it, since 1970 (UTC). */
  readonly day: number;
  /** What came at once, beyond the usual of a day; negative where it went. */
  readonly bytes: number;
}

/** So many times the usual spread from day to day, and so much of what is used: below, it is a busy day. */
const [SPREADS, LEAST_SHARE] = [8, 0.01];
/** Days on either side that must agree that it stayed. */
const SIDE = 3;
/** With fewer days there is no usual. */
const FEWEST_DAYS = 10;

/** What pages round to. */
const ROUNDED = [1, 0.1, 0.01].flatMap((part) => [TB * part, TIB * part]);
/** So near a multiple counts as one. */
const NEAR = 0.01;

/** What all of these are rounded to, in bytes; 0 where they are not. */
function roundedTo(bytes: readonly number[]): number {
  const isMultiple = (one: number, of: number): boolean => Math.abs(one / of - Math.round(one / of)) < NEAR;
  return Math.max(0, ...ROUNDED.filter((of) => bytes.every((one) => isMultiple(one, of))));
}

/** Where the use jumped and stayed there. One step of what is rounded is no jump. What came and went again is a wild day, and none. */
export function jumpsOf({ day, bytes }: Days): Jump[] {
  if (day.length < FEWEST_DAYS) return [];
  const steps = day.slice(1).map((one, i) => ({
    gap: one - (day[i] as number),
    bytes: (bytes[i + 1] as number) - (bytes[i] as number),
  }));
  const usual = median(steps.map(({ gap, bytes: by }) => by / gap));
  const beyond = steps.map(({ gap, bytes: by }) => by - usual * gap);
  const spread = 1.4826 * median(beyond.map(Math.abs));
  const step = 1.5 * roundedTo(bytes);
  return beyond.flatMap((by, i): Jump[] => {
    const level = Math.max(bytes[i] as number, bytes[i + 1] as number);
    if (Math.abs(by) <= Math.max(SPREADS * spread, LEAST_SHARE * level, step)) return [];
    const before = median(bytes.slice(Math.max(0, i + 1 - SIDE), i + 1));
    const after = median(bytes.slice(i + 1, i + 1 + SIDE));
    const stayed = (after - before) / by;
    return stayed > 0.5 ? [{ day: day[i + 1] as number, bytes: by }] : [];
  });
}

/** The same days as if these jumps had been there from the first. */
export function withoutJumps({ day, bytes }: Days, jumps: readonly Jump[]): Days {
  return {
    day,
    bytes: bytes.map((one, i) =>
      jumps.reduce((sum, jump) => (jump.day > (day[i] as number) ? sum + jump.bytes : sum), one),
    ),
  };
}
