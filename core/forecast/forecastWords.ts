import type { HeldBefore } from './heldBefore';
import type { Finding, Forecast } from './forecastUse';

/** What was seen, said to whoever plans by it. */
const FOUND: Readonly<Record<Finding, string>> = {
  'little-history': 'There is little history yet: take the span for a guess.',
  jump: 'What came or went at once is told below and is not in the slope.',
  'jumps-again-and-again': 'Much comes or goes at once again and again: the span holds what that may do.',
  season: 'It swings with the year: that is in the dates.',
  'slope-changed': 'It grows at another rate than before: only what came since counts.',
  compound: 'It grows by a share of itself, ever faster: the dates are by that curve.',
  drifts: 'Its growth itself changes from month to month: how far it may go is in the span.',
  falls: 'It falls.',
  'over-the-line': 'It is over the line already.',
  'does-not-cross': 'It is not to be expected to cross the line within fifteen years.',
  'beyond-horizon': 'The later end of the span lies beyond what can be said.',
};

/** The findings of a forecast as sentences, in the order in which they were made. */
export function findingWords({ found }: Pick<Forecast, 'found'>): string[] {
  return found.map((finding) => FOUND[finding]);
}

/**
 * When the line is crossed, in one sentence.
 *
 * @param line share, 0..1
 * @param dayWords a day (2026-01-31) as people read it
 */
export function crossingWords(
  { crosses, found }: Pick<Forecast, 'crosses' | 'found'>,
  line: number,
  dayWords: (day: string) => string,
): string {
  const percent = `${String(Math.round(line * 100))} %`;
  if (crosses === null) return `It stays below ${percent} for as long as can be seen.`;
  if (found.includes('over-the-line')) return `It is above ${percent} now.`;
  const [low, likely, high] = crosses.map(dayWords) as [string, string, string];
  if (low === high) return `It crosses ${percent} in ${likely}.`;
  return `It crosses ${percent} between ${low} and ${found.includes('beyond-horizon') ? `later than ${high}` : high}, likely in ${likely}.`;
}

/** How often the same held what came when it was asked before: what it is worth here; none where that is not known. */
export function heldBeforeWords(before: HeldBefore | null): string | null {
  return before === null
    ? null
    : `Asked the same way in the past, its span held ${String(before.held)} of the last ${String(before.of)} quarters; four of five are meant.`;
}
