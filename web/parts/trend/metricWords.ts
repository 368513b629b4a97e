import type { Metric } from '~/schemas/metrics';

/** What is measured, and in what, as it stands over a chart. */
export const METRIC_WORDS: Record<Metric, readonly [string, string]> = {
  'used-bytes': ['Used', 'B'],
  temperature: ['Temperature', '°C'],
  'reallocated-sectors': ['Reallocated sectors', 'sectors'],
  'pending-sectors': ['Sectors waiting to be reallocated', 'sectors'],
  'read-errors': ['Read errors', 'errors'],
  'power-on-hours': ['Hours switched on', 'h'],
  'written-bytes': ['Written in all', 'B'],
  'life-left': ['Rated life left', '%'],
};
