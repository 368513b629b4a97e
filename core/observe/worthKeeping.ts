import { dayOf } from '../quantity/days';
import type { Metric } from '../../schemas/metrics';

/** What was kept last of something measured. */
export interface LastKept {
  readonly at: string;
  readonly value: number;
}

/** By less than this a value has not changed: of the value itself, or in its own unit (common practice). */
const SLACK: Readonly<Record<Metric, { readonly share?: number; readonly by?: number }>> = {
  'used-bytes': { share: 0.001 },
  temperature: { by: 1 },
  'reallocated-sectors': {},
  'pending-sectors': {},
  'read-errors': {},
  'power-on-hours': { by: 24 },
  'written-bytes': { share: 0.01 },
  'life-left': {},
};

/**
 * Whether a value that is measured every few minutes is worth keeping: the first of each day, and whatever has changed by
 * more than a unit of its own unrest. Of a count every change is kept.
 *
 * @param now ISO 8601
 */
export function isWorthKeeping(metric: Metric, value: number, last: LastKept | undefined, now: string): boolean {
  if (!last || dayOf(last.at) !== dayOf(now)) return true;
  const { share = 0, by = 0 } = SLACK[metric];
  return Math.abs(value - last.value) > Math.max(by, share * Math.abs(last.value));
}
