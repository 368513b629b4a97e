/** What is measured: of a pool the bytes used, of a drive the rest. */
export const METRICS = [
  'used-bytes',
  'temperature',
  'reallocated-sectors',
  'pending-sectors',
  'read-errors',
  'power-on-hours',
  'written-bytes',
] as const;
export type Metric = (typeof METRICS)[number];
