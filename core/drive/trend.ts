import { YEAR_HOURS } from '../quantity/year';
import type { Metric } from '../../schemas/metrics';
import { formatBytes } from '../quantity/formatBytes';
import { untilWords, wearOut } from './wearOut';

/** A stretch of days of something measured: lowest, highest, last. */
export interface TrendPoint {
  readonly day: string;
  readonly low: number;
  readonly high: number;
  readonly last: number;
}

/** Something measured of a drive over years, and of other drives of its lot. */
export interface Trend {
  readonly metric: Metric;
  /** Oldest first. */
  readonly own: readonly TrendPoint[];
  readonly mates: readonly { readonly serial: string; readonly points: readonly TrendPoint[] }[];
}

/** Bays of one box differ by as much, °C (common practice). */
const WARMER = 3;

const COUNTS: Partial<Record<Metric, string>> = {
  'reallocated-sectors': 'reallocated sectors',
  'pending-sectors': 'sectors waiting to be reallocated',
  'read-errors': 'read errors',
};

/**
 * What a trend says, in a sentence or two: where it stands, how it came there, and how that is beside the others of its lot.
 *
 * @returns an empty text where nothing was measured
 */
export function trendWords({ metric, own, mates }: Trend): string {
  const now = own.at(-1)?.last;
  const first = own[0];
  if (now === undefined || first === undefined) return '';
  const others = mates.flatMap(({ points }) => points.at(-1)?.last ?? []);
  const count = COUNTS[metric];
  if (count !== undefined) {
    const its =
      now === 0 && own.every(({ high }) => high === 0)
        ? `No ${count}.`
        : `${now === 0 ? 'No' : String(now)} ${count}${since(own, now)}.`;
    return `${its}${beside(others, (value) => String(value), now, 0)}`;
  }
  if (metric === 'temperature') {
    const [low, high] = [Math.min(...own.map((one) => one.low)), Math.max(...own.map((one) => one.high))];
    return `${String(now)} °C now${low === high ? '' : `, between ${String(low)} and ${String(high)} since ${first.day}`}.${beside(others, (value) => `${String(value)} °C`, now, WARMER)}`;
  }
  if (metric === 'life-left') {
    const out = wearOut(own.map(({ day, last }) => ({ day, left: last })));
    const pace = out ? ` At its pace the rating lasts ${untilWords(out)}.` : '';
    return `${String(now)} % of its rated life left.${pace}${beside(others, (value) => `${String(value)} %`, now, Infinity)}`;
  }
  if (metric === 'written-bytes')
    return `${formatBytes(now)} written in all.${beside(others, formatBytes, now, Infinity)}`;
  if (metric === 'power-on-hours') return `Switched on for ${years(now)}.${beside(others, years, now, Infinity)}`;
  return '';
}

/** How a count came to where it stands: what waits to be reallocated may be again, and a counter may begin anew. */
function since(own: readonly TrendPoint[], now: number): string {
  const first = own[0] as TrendPoint;
  const most = Math.max(...own.map(({ high }) => high));
  const between = most > Math.max(now, first.high) ? `, and ${String(most)} between` : '';
  if (now > first.low) return `, ${String(now - first.low)} more than on ${first.day}${between}`;
  if (now < first.low) return `, ${String(first.low - now)} fewer than on ${first.day}${between}`;
  return most > now ? `, as on ${first.day}, and ${String(most)} between` : ', as from the first reading on';
}

/** @param slack so much more than the others says nothing */
function beside(others: readonly number[], words: (value: number) => string, now: number, slack: number): string {
  if (others.length === 0) return '';
  const [low, high] = [Math.min(...others), Math.max(...others)];
  const span = low === high ? words(low) : `${words(low)} to ${words(high)}`;
  const isOne = others.length === 1;
  const more = now > high + slack ? (isOne ? ' It is above that.' : ' It is above all of them.') : '';
  return ` ${isOne ? 'The other of its lot' : `The ${String(others.length)} others of its lot`}: ${span}.${more}`;
}

/** Hours as years of 8,766 h, one digit. */
function years(hours: number): string {
  return hours < YEAR_HOURS / 2 ? `${String(Math.round(hours / 24))} days` : `${(hours / YEAR_HOURS).toFixed(1)} years`;
}
