import { formatBytes } from './formatBytes';

/** As many digits as tell any two sizes apart that a page shows. */
const MOST_DIGITS = 6;

/**
 * Two sizes that are not the same, in words that are not either: with as many digits as tell them apart.
 *
 * @param system as in `formatBytes`
 */
export function apart(a: number, b: number, system: 'decimal' | 'binary' = 'decimal'): readonly [string, string] {
  for (let digits = 1; ; digits++) {
    const words = [formatBytes(a, system, digits), formatBytes(b, system, digits)] as const;
    if (words[0] !== words[1] || digits >= MOST_DIGITS) return words;
  }
}
