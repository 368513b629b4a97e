import type { Profile } from '../platform/profile';
import { GB, TIB } from '../quantity/bytes';
import { parseNumber } from '../quantity/parseNumber';
import { isRefusal, type Refusal } from '../value/refusal';
import { labelBytes } from './labelBytes';
import { readSize, type DriveSize } from './readSize';
import { SIZES_SOLD } from './sizesSold';

/**
 * The size of a drive as a unit's page shows it. A page rounds, and many count in 1024s and print "TB": "7.3 TB" is no
 * drive anybody sells, and 7.28 TiB taken at its word is more than the 8 TB drive it is. The one size sold that the page
 * would show like this is taken; where there is none, or more than one, what is written.
 *
 * @returns the size, or the refusal of what is no size
 */
export function sizeOnPage(
  text: string,
  page: Profile['unitPage'] = { counts: 'TiB', prints: 'TiB' },
): DriveSize | Refusal {
  const read = readSize(text);
  if (isRefusal(read) || read.basis === 'exact') return read;
  if (
    read.basis === 'label' &&
    (page.counts === 'TB' || SIZES_SOLD.some((gigabytes) => labelBytes(gigabytes) === read.bytes))
  )
    return read;
  const number = /\d[\d.,]*/.exec(text)?.[0] ?? '';
  const shown = parseNumber(number, 'decimal') ?? NaN;
  const decimals = /[.,](\d+)$/.exec(number)?.[1]?.length ?? 0;
  const unit = /p/i.test(text) ? TIB * 1024 : /g/i.test(text) ? TIB / 1024 : TIB;
  const alike = SIZES_SOLD.filter(
    (gigabytes) => Math.abs(labelBytes(gigabytes) / unit - shown) <= 0.5 / 10 ** decimals + 1e-9,
  );
  const [gigabytes] = alike;
  if (gigabytes === undefined || alike.length > 1) return read;
  const bytes = labelBytes(gigabytes);
  return Object.freeze({
    kind: 'drive-size',
    bytes,
    basis: 'label',
    label: gigabytes < 1000 ? `${String(gigabytes)} GB` : `${String((gigabytes * GB) / 1e12)} TB`,
  });
}

/** What is recorded of a drive of that size. */
export function sizedDrive(
  serial: string,
  { bytes, basis, label }: DriveSize,
): { serial: string; bytes: number; basis: DriveSize['basis']; label?: string } {
  return { serial, bytes, basis, ...(label === undefined ? {} : { label }) };
}
