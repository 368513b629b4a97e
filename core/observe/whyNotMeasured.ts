import type { Metric } from '../../schemas/metrics';
import { formatBytes } from '../quantity/formatBytes';

/** Degrees Celsius no drive was ever read at and lived (common practice). */
const [COLDEST, HOTTEST] = [-60, 200];

/** A page rounds what it shows: by so much more than a pool holds it may seem to be used. */
export const PAGE_ROUNDS = 1.02;

/**
 * Why a value cannot have been measured, in words; `null` where it can.
 *
 * @param holds bytes the pool it is about shows, where it is about one
 */
export function whyNotMeasured(metric: Metric, value: number, holds?: number): string | null {
  switch (metric) {
    case 'used-bytes':
      if (value < 0) return `${String(value)} cannot have been counted: 0 and up.`;
      return holds === undefined || value <= holds * PAGE_ROUNDS
        ? null
        : `${formatBytes(value)} cannot be used of a pool that shows ${formatBytes(holds)}: record first that it has grown.`;
    case 'life-left':
      return value >= 0 && value <= 100 ? null : `${String(value)} is no share in percent: 0 to 100.`;
    case 'temperature':
      return value >= COLDEST && value <= HOTTEST ? null : `${String(value)} °C is no temperature of a drive.`;
    default:
      return value >= 0 ? null : `${String(value)} cannot have been counted: 0 and up.`;
  }
}
