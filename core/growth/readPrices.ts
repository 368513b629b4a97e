import { readSize } from '../drive/readSize';
import { formatBytes } from '../quantity/formatBytes';
import { parseNumber } from '../quantity/parseNumber';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import type { Price } from './priceList';

/** A price list as {@link readPrices} reads it: sizes as they are printed on drives, or in bytes where that would lose some. */
export function pricesText(prices: readonly Price[]): string {
  return prices
    .map(({ bytes, cents }) => {
      const label = formatBytes(bytes);
      const read = readSize(label);
      return `${!isRefusal(read) && read.bytes === bytes ? label : `${String(bytes)} B`}; ${(cents / 100).toFixed(2)}`;
    })
    .join('\n');
}

/**
 * A price list as it is typed or pasted: a size and a price on each line, "8 TB, 189.90", with a comma, a semicolon or a tab
 * between; a first line of headings is passed over, empty ones too.
 *
 * @returns prices in hundredths, as written; refused with the line that cannot be read
 */
export function readPrices(text: string): Price[] | Refusal {
  const prices: Price[] = [];
  for (const [i, line] of text.split(/\r?\n/).entries()) {
    if (line.trim() === '') continue;
    const cut = /[\t;]/.exec(line)?.index ?? line.indexOf(',');
    const size = readSize(line.slice(0, Math.max(0, cut)).trim());
    const price = parseNumber(line.slice(cut + 1).trim(), 'grouped');
    if (cut > 0 && !isRefusal(size) && price !== null && price >= 0) {
      prices.push({ bytes: size.bytes, cents: Math.round(price * 100) });
      continue;
    }
    if (i === 0 && !/\d/.test(line)) continue;
    return refusal(
      'price-unread',
      `Line ${String(i + 1)}, “${line.trim().slice(0, 40)}”, is no size with a price: write “8 TB, 189.90”.`,
    );
  }
  return prices.length === 0
    ? refusal('prices-missing', 'Write what drives cost, a size and a price on each line: “8 TB, 189.90”.')
    : prices;
}
