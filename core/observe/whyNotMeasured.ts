import type { Metric } from '../../schemas/metrics';

/** Degrees Celsius no drive was ever read at and lived (common practice). */
const [COLDEST, HOTTEST] = [-60, 200];

/** Why a value cannot have been measured, in words; `null` where it can. */
export function whyNotMeasured(metric: Metric, value: number): string | null {
  switch (metric) {
    case 'life-left':
      return value >= 0 && value <= 100 ? null : `${String(value)} is no share in percent: 0 to 100.`;
    case 'temperature':
      return value >= COLDEST && value <= HOTTEST ? null : `${String(value)} °C is no temperature of a drive.`;
    default:
      return value >= 0 ? null : `${String(value)} cannot have been counted: 0 and up.`;
  }
}
