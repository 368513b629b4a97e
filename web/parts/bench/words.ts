import { ends, type Figure } from '~/core/risk/riskOfLayout';
import type { RebuildEstimate } from '~/core/rebuild/estimateRebuild';
import { formatCount } from '~/core/quantity/formatCount';
import { formatPercent } from '~/core/quantity/formatPercent';

/** "17–34 h", or days where hours say little. */
export function rebuildWords(rebuild: RebuildEstimate | null): string {
  if (!rebuild) return '—';
  const hours = [rebuild.low, rebuild.high].map((seconds) => seconds / 3600) as [number, number];
  if (hours[1] < 1.5) return `${String(Math.round(rebuild.low / 60))}–${String(Math.round(rebuild.high / 60))} min`;
  if (hours[0] > 96) return `${(hours[0] / 24).toFixed(0)}–${(hours[1] / 24).toFixed(0)} days`;
  return `${hours[0].toFixed(hours[0] < 10 ? 1 : 0)}–${hours[1].toFixed(hours[1] < 10 ? 1 : 0)} h`;
}

/** A chance as a percentage; the smallest as one in so many. */
export function chanceWords(chance: number): string {
  if (chance >= PERCENT_FROM || chance === 0) return formatPercent(chance);
  const one = 1 / chance;
  if (!Number.isFinite(one) || one > 1e12) return '< 10⁻¹²';
  return `1 in ${one >= 1e9 ? `${formatCount(Number((one / 1e9).toPrecision(2)))} G` : one >= 1e6 ? `${Number((one / 1e6).toPrecision(2)).toString()} M` : formatCount(Number(one.toPrecision(2)))}`;
}

/** The same where there is little room: "1 in 990 k". */
export function shortChance(chance: number): string {
  const words = chanceWords(chance);
  const [, thousands] = /^1 in (\d+),000$/.exec(words) ?? [];
  return thousands === undefined ? words : `1 in ${thousands} k`;
}

/** The same where it may be a range, both ends in one notation: "0.008 to 0.18 %", "1 in 25,000 to 1 in 1,300". */
export function riskWords(figure: Figure): string {
  const [low, high] = ends(figure);
  if (high < PERCENT_FROM || low === high) return rangeOf([low, high], chanceWords);
  return `${Number((low * 100).toPrecision(2)).toString()} to ${chanceWords(high)}`;
}

/** "1 in 1,500" and "0.2 %" are not parted at a line's end. */
export function unbroken(words: string): string {
  return words
    .replace(/1 in (\S+)( [kMG]\b)?/g, (piece) => piece.replaceAll(' ', '\u00a0'))
    .replaceAll(' %', '\u00a0%');
}

/** From this chance on it is told in percent. */
const PERCENT_FROM = 0.001;

/** "17 MB to 350 MB"; one of them where they read alike. */
export function rangeOf(figure: Figure, words: (one: number) => string): string {
  const [low, high] = [...ends(figure)].sort((a, b) => a - b).map(words);
  return low === high ? (low ?? '') : `${low ?? ''} to ${high ?? ''}`;
}

/** A whole number with groups; rounded to what an estimate can promise. */
export function countWords(count: number): string {
  return formatCount(Number(count.toPrecision(2)));
}
