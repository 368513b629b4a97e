/**
 * The chance of meeting at least one unreadable sector while reading a number of bytes, 0..1.
 *
 * 1 − (1 − p)^bits with p the data sheet's rate, e.g. one error in 10^14 bits read. Data-sheet rates are bounds; field
 * rates differ, mostly for the better. Check: 12 TB at 10^-14 is 61.7 %, at 10^-15 9.2 % (arithmetic of independent
 * errors, common practice).
 *
 * @param bytes bytes read, 0 and up
 * @param perBit errors per bit read, 0 to 1
 */
export function chanceOfUnreadableSector(bytes: number, perBit: number): number {
  return -Math.expm1(bytes * 8 * Math.log1p(-perBit));
}
