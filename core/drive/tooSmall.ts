import { formatBytes, formatExactBytes } from '../quantity/formatBytes';

const SECTOR = 512;
/** A gigabyte and a half: less than that is two makers meaning one label. */
const FEW_SECTORS = 3_000_000;

/** By how much a drive is too small: a few sectors are counted, for labels agree where sectors do not. */
export function shortWords(bytes: number, needs: number): string {
  const sectors = Math.ceil((needs - bytes) / SECTOR);
  return sectors > FEW_SECTORS
    ? `too small by ${formatBytes(needs - bytes)}`
    : `${formatExactBytes(sectors)} ${sectors === 1 ? 'sector' : 'sectors'} short`;
}

/** The sentence for a drive that cannot take over: what it holds, what is needed, both to the byte. */
export function tooSmallWords(drive: string, bytes: number, needs: number): string {
  return `${drive} is ${shortWords(bytes, needs)}: it holds ${formatExactBytes(bytes)} bytes, ${formatExactBytes(needs)} are needed.`;
}
