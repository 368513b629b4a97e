import { GB, GIB, MB, MIB, PB, PIB, TB, TIB } from './bytes';

const DECIMAL = [
  [PB, 'PB'],
  [TB, 'TB'],
  [GB, 'GB'],
  [MB, 'MB'],
  [1000, 'kB'],
] as const;
const BINARY = [
  [PIB, 'PiB'],
  [TIB, 'TiB'],
  [GIB, 'GiB'],
  [MIB, 'MiB'],
  [1024, 'KiB'],
] as const;

/**
 * A size with its unit, in thousands ("12 TB", "8.5 TB") or in 1024s ("10.9 TiB").
 *
 * @param bytes whole bytes, 0 and up
 * @param system `decimal` for what is printed on a box, `binary` for what most units show on their page
 * @param digits digits after the point; zeros at the end are dropped so that a 12 TB drive reads "12 TB"
 */
export function formatBytes(bytes: number, system: 'decimal' | 'binary' = 'decimal', digits = 1): string {
  const units = system === 'decimal' ? DECIMAL : BINARY;
  const at = units.findIndex(([size]) => bytes >= size);
  const [size, name] = units[at] ?? [1, 'B'];
  const shown = Number((bytes / size).toFixed(size === 1 ? 0 : digits));
  // What rounds up to a whole one of the next is one of those: 999 999 999 999 bytes are 1 TB, not 1000 GB.
  const [next, nextName] = units[at - 1] ?? [Infinity, ''];
  return shown * size >= next
    ? `${String(Number((bytes / next).toFixed(digits)))} ${nextName}`
    : `${String(shown)} ${name}`;
}

/** Whole bytes with thin groups of three, for the places where the exact number decides: "12 000 138 625 024". */
export function formatExactBytes(bytes: number): string {
  return String(bytes).replace(/\B(?=(\d{3})+$)/g, '\u202f');
}

/** The same figure in a fixed unit and with fixed digits, for a column whose unit stands in its head. */
export function inTB(bytes: number, digits = 2): string {
  return (bytes / TB).toFixed(digits);
}

/** The same in TiB (2^40 bytes, IEC 80000-13). */
export function inTiB(bytes: number, digits = 2): string {
  return (bytes / TIB).toFixed(digits);
}
