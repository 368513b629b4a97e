import { formatCount } from './formatCount';

/**
 * A share 0..1 as a percentage with two figures that mean something: "0.41 %", "9.2 %", "65 %", "over 99 %"; one that has no
 * place before its first figure as one in so many: "1 in 10,000,000,000".
 */
export function formatPercent(share: number): string {
  if (share === 0 || share === 1) return `${String(share * 100)} %`;
  if (share > 0.99) return 'over 99 %';
  if (share > 0 && share < LEAST_PERCENT) return `1 in ${formatCount(Number((1 / share).toPrecision(2)))}`;
  return `${String(Number((share * 100).toPrecision(2)))} %`;
}

/** Below this share a percentage is written with an exponent by every machine, and read by nobody. */
const LEAST_PERCENT = 1e-8;

/** How full something is, in whole per cent, rounded down: 79.9 % is not yet 80. */
export function wholePercent(share: number): number {
  return Math.floor(share * 100 + 1e-9);
}
