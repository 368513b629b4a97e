/**
 * What is measured: of a pool the bytes used, of a drive the rest. `life-left`: how much of the writes a drive of flash is rated
 * for is left, percent.
 */
export const METRICS = [
  'used-bytes',
  'temperature',
  'reallocated-sectors',
  'pending-sectors',
  'read-errors',
  'power-on-hours',
  'written-bytes',
  'life-left',
] as const;
export type Metric = (typeof METRICS)[number];
