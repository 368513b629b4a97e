import { readSize } from '../drive/readSize';
import { parseNumber } from '../quantity/parseNumber';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import type { ShareToCopy } from './sharesTime';

/** More shares than a small office has. */
const MOST_SHARES = 200;
const MOST_NAME = 120;

/**
 * Shares as somebody writes them, a line each: its name, its size, how many files; "Maps, 1.2 TB, 40000". A heading is passed
 * over. Without a number of files it is one of many.
 *
 * @param rowsOf reads a sheet (RFC 4180)
 * @param usualFileBytes how large a file is where their number is not said, above 0
 */
export function readShares(
  text: string,
  rowsOf: (sheet: string) => readonly (readonly string[])[],
  usualFileBytes: number,
): readonly ShareToCopy[] | Refusal {
  const rows = rowsOf(text).map((row) => row.map((cell) => cell.trim()));
  const shares: ShareToCopy[] = [];
  for (const [i, [name = '', size = '', count = '']] of rows.entries()) {
    if (`${name}${size}${count}` === '') continue;
    const line = `Line ${String(i + 1)}`;
    if (size === '') return refusal('share-unread', `${line}: write the size of ${name} behind it, “Maps, 1.2 TB”.`);
    // Read as a drive's label is, which holds some 0.02 % more than it says: of no account for hours.
    const read = readSize(size);
    // What the columns are called.
    if (isRefusal(read) && i === 0 && !/\d/.test(size)) continue;
    if (isRefusal(read)) return refusal('share-unread', `${line}: ${read.sentence}`);
    const files = count === '' ? Math.max(1, Math.round(read.bytes / usualFileBytes)) : parseNumber(count, 'grouped');
    if (files === null || !(files >= 1) || !Number.isSafeInteger(files))
      return refusal('share-unread', `${line}: “${count.slice(0, 40)}” is no number of files.`);
    shares.push({ name: name.slice(0, MOST_NAME) || line, bytes: read.bytes, files });
    if (shares.length > MOST_SHARES)
      return refusal('too-many', `At most ${String(MOST_SHARES)} shares: take small ones together.`);
  }
  return Object.freeze(shares);
}
