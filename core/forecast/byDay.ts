import { DAY_MS } from '../quantity/days';

/** What was used at a moment. */
export interface Reading {
  readonly at: string;
  readonly usedBytes: number;
}

/** One value a day: days since 1970 (UTC), and the last reading of each, in bytes. */
export interface Days {
  readonly day: readonly number[];
  readonly bytes: readonly number[];
}

/** Readings in order of time, the last of each day (UTC); the order they come in never matters. */
export function byDay(readings: readonly Reading[]): Days {
  const last = new Map<number, { readonly at: number; readonly bytes: number }>();
  for (const { at, usedBytes } of readings) {
    const moment = Date.parse(at);
    const day = Math.floor(moment / DAY_MS);
    const known = last.get(day);
    if (!known || moment >= known.at) last.set(day, { at: moment, bytes: usedBytes });
  }
  const day = [...last.keys()].sort((a, b) => a - b);
  return { day, bytes: day.map((one) => last.get(one)?.bytes ?? 0) };
}

/** Some days of a history, from one place in it to before another. */
export function part({ day, bytes }: Days, from: number, to: number): Days {
  return { day: day.slice(from, to), bytes: bytes.slice(from, to) };
}
