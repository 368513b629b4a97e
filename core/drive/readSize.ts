import { GB, GIB, KIB, MB, MIB, MOST_BYTES, PIB, TIB } from '../quantity/bytes';
import { parseNumber } from '../quantity/parseNumber';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import { labelBytes } from './labelBytes';
import { LARGEST_DISK, SIZES_SOLD } from './sizesSold';

/**
 * How a size is known. `exact`: bytes or sectors read off the drive. `label`: the decimal size printed on it, turned
 * into bytes by the published rules. `binary`: read off a page that counts in 1024s and rounds.
 */
export type SizeBasis = 'exact' | 'label' | 'binary';

export interface DriveSize {
  readonly kind: 'drive-size';
  readonly bytes: number;
  readonly basis: SizeBasis;
  /** The text it was read from, tidied ("12 TB"), when that was not plain bytes. */
  readonly label?: string;
}

/** No size is written longer; what reads it looks at every character more than once. */
const LONGEST = 80;

const DECIMAL_GB: Record<string, number> = { mb: MB / GB, gb: 1, tb: 1e3, pb: 1e6 };
const BINARY: Record<string, number> = { kib: KIB, mib: MIB, gib: GIB, tib: TIB, pib: PIB };
const NAMES: Record<string, string> = {
  mb: 'MB',
  gb: 'GB',
  tb: 'TB',
  pb: 'PB',
  kib: 'KiB',
  mib: 'MiB',
  gib: 'GiB',
  tib: 'TiB',
  pib: 'PiB',
};

/**
 * Reads the size of one drive: "12 TB", "12000 GB", "11.2 TiB", "11,2 TiB", "12000138625024", "12 000 138 625 024 B",
 * "23437770752 sectors" (of 512 bytes).
 *
 * Three digits behind a separator are a group only where that is a size that is sold: "1.920 GB" is 1,920 GB, and "1.920 TB",
 * "931.513 GiB" and "500.107 GB" are what they say. One rule for sheets, lists, pages and what is recorded.
 *
 * @returns the size, or a refusal with a sentence that says what to write instead
 */
export function readSize(text: string): DriveSize | Refusal {
  const trimmed = text.trim();
  if (trimmed === '')
    return refusal('size-missing', 'There is no size. Write it as on the label, "12 TB", or in bytes.');
  if (trimmed.length > LONGEST)
    return refusal(
      'size-unreadable',
      `"${clip(trimmed)}" is not a size. Write it as on the label, "12 TB", or in bytes.`,
    );
  const match = /^([+-]?[\d.,\s\u00a0\u2009\u202f'’_]*\d)\s*([a-z]*)$/i.exec(trimmed);
  if (!match)
    return refusal(
      'size-unreadable',
      `"${clip(trimmed)}" is not a size. Write it as on the label, "12 TB", or in bytes.`,
    );
  const unit = (match[2] as string).toLowerCase();
  const isFine = ['', 'b', 'byte', 'bytes', 'sector', 'sectors'].includes(unit);
  if (!isFine && !(unit in DECIMAL_GB) && !(unit in BINARY)) {
    return refusal(
      'size-unit-unknown',
      `"${clip(match[2] as string)}" is not a unit of size known here. Use TB, GB, TiB, GiB or bytes.`,
    );
  }
  const number = numberOf(match[1] as string, unit);
  if (isRefusal(number)) return number;
  if (number === null)
    return refusal(
      'size-unreadable',
      `"${clip(trimmed)}" is not a size. Write it as on the label, "12 TB", or in bytes.`,
    );
  if (number <= 0)
    return refusal('size-not-positive', `"${clip(trimmed)}" is not a size: a drive holds more than nothing.`);

  if (unit in DECIMAL_GB) {
    const gigabytes = number * (DECIMAL_GB[unit] as number);
    if (gigabytes * GB > MOST_BYTES) return tooLarge(trimmed);
    return size(labelBytes(gigabytes), 'label', `${String(number)} ${NAMES[unit] as string}`);
  }
  if (unit in BINARY) {
    const bytes = Math.floor(number * (BINARY[unit] as number));
    return bytes > MOST_BYTES ? tooLarge(trimmed) : size(bytes, 'binary', `${String(number)} ${NAMES[unit] as string}`);
  }
  const bytes = unit.startsWith('sector') ? number * 512 : number;
  if (unit === '' && bytes < MB) {
    return refusal(
      'size-without-unit',
      `"${clip(trimmed)}" has no unit. Write "${clip(trimmed)} TB" if that is what the label says.`,
    );
  }
  if (bytes > MOST_BYTES) return tooLarge(trimmed);
  if (!Number.isInteger(bytes)) return refusal('size-unreadable', `"${clip(trimmed)}" is not a whole number of bytes.`);
  return size(bytes, 'exact');
}

/**
 * The number before a unit. Its one ambiguous form is grouped where that is no more than the largest disk, and decimal where it is
 * more; of flash drives that are larger still both can be, and it is asked.
 */
function numberOf(text: string, unit: string): number | null | Refusal {
  const grouped = parseNumber(text, 'grouped');
  const each = unit in DECIMAL_GB ? (DECIMAL_GB[unit] as number) * GB : BINARY[unit];
  if (grouped === null || each === undefined || grouped * each <= LARGEST_DISK * GB) return grouped;
  const decimal = parseNumber(text, 'decimal');
  const gigabytes = (grouped * each) / GB;
  if (decimal === grouped || !SIZES_SOLD.includes(gigabytes)) return decimal;
  return refusal(
    'size-either',
    `"${clip(text)} ${NAMES[unit] as string}" can be ${String(gigabytes / 1000)} TB or ${String(decimal)} ${NAMES[unit] as string}. Write it without the groups of three, or with one or two digits behind the point.`,
  );
}

function size(bytes: number, basis: SizeBasis, label?: string): DriveSize | Refusal {
  if (bytes < 1) return refusal('size-not-positive', 'That is less than one block: a drive holds more than nothing.');
  return Object.freeze({ kind: 'drive-size', bytes, basis, ...(label === undefined ? {} : { label }) });
}

function tooLarge(text: string): Refusal {
  return refusal('size-too-large', `"${clip(text)}" is more than 9 PB, the most this program counts to the byte.`);
}

function clip(text: string): string {
  return text.length > 40 ? `${text.slice(0, 39)}…` : text;
}
