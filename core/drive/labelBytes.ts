import { GB } from '../quantity/bytes';

const SECTOR = 512;
const BLOCK = 4096;

/**
 * The bytes a drive holds by the size printed on its label, by the two published rules.
 *
 * - above 50 and up to 8,000 GB: sectors = 97,696,368 + 1,953,504 × (GB − 50). Source: IDEMA LBA1-03.
 * - above 8,000 GB: sectors rounded up to a multiple of 2^21. Source: SFF-8447.
 * - up to 50 GB: the plain decimal size in whole 4,096-byte blocks, rounded down (common practice).
 *
 * A label never proves that one drive is at least as large as another: the two rules differ by 1.1 GB at 8 TB, and
 * makers are free to differ from both. Ask for the exact bytes before a swap.
 *
 * @param gigabytes the label's figure in GB (10^9 bytes), above 0 and at most 9,000,000
 * @returns whole bytes
 */
export function labelBytes(gigabytes: number): number {
  if (gigabytes <= 50) return Math.floor((gigabytes * GB) / BLOCK) * BLOCK;
  if (gigabytes <= 8000) {
    // Whole gigabytes come out as multiples of 8 sectors; a label in between is rounded up to the next one.
    return Math.ceil((97_696_368 + 1_953_504 * (gigabytes - 50)) / 8 - 1e-6) * 8 * SECTOR;
  }
  const unit = 2 ** 21;
  return Math.ceil((gigabytes * GB) / SECTOR / unit) * unit * SECTOR;
}
