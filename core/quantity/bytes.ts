/** Decimal and binary multiples of the byte. Source: IEC 80000-13:2008 (SI prefixes are powers of 1000, TiB is 2^40). */
export const KB = 1e3;
export const MB = 1e6;
export const GB = 1e9;
export const TB = 1e12;
export const PB = 1e15;
export const KIB = 2 ** 10;
export const MIB = 2 ** 20;
export const GIB = 2 ** 30;
export const TIB = 2 ** 40;
export const PIB = 2 ** 50;

/** The most bytes a figure may have: 9 PB, just under 2^53, so that integer arithmetic on numbers stays exact. */
export const MOST_BYTES = 9e15;

/** True for a whole number of bytes from 0 to {@link MOST_BYTES}. */
export function isBytes(value: unknown): value is number {
  return Number.isInteger(value) && (value as number) >= 0 && (value as number) <= MOST_BYTES;
}
