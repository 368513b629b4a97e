import { isRefusal, refusal, type Refusal } from '../value/refusal';
import { MOST_BYTES } from './bytes';
import { parseNumber } from './parseNumber';

/** No amount is written longer; what reads it looks at every character more than once. */
const LONGEST = 80;
const AMOUNT = /^\s*(\d[\d.,\s]*?)\s*([kmgtp]i?b)\s*$/i;
const POWER: Readonly<Record<string, number>> = { k: 1, m: 2, g: 3, t: 4, p: 5 };

interface Page {
  readonly counts: 'TiB' | 'TB';
  readonly prints: 'TiB' | 'TB';
}

/**
 * An amount of space as a unit's page shows it, in bytes: "21.4 TiB", "9,5 TB". Many pages count in 1024s and print "TB".
 *
 * @param page what it counts in, and prints
 * @param most bytes there can be at most: where "21,480 GiB" can be 21 480 GiB or 21.48 GiB, what is larger than that is left out
 * @returns refused (`size-either`) where both can be: nobody guesses by a thousand
 */
export function shownAmount(text: string, page: Page, most = MOST_BYTES): number | Refusal {
  const amounts = shownAmounts(text, page, most);
  if (isRefusal(amounts)) return amounts;
  const [small = 0, large] = amounts;
  if (large === undefined) return small;
  const [, number = '', unit = ''] = AMOUNT.exec(text) ?? [];
  const plain = number.replace(/[\s.,]/g, '');
  return refusal(
    'size-either',
    `"${text.trim()}" can be ${plain} ${unit} or ${String(parseNumber(number, 'decimal'))} ${unit}. Write it without the groups of three: "${plain} ${unit}", or with one or two digits behind the point.`,
  );
}

/** Each amount it can be, the smaller first: two where three digits stand behind the only point or comma, and both can be. */
export function shownAmounts(text: string, page: Page, most = MOST_BYTES): readonly number[] | Refusal {
  const [, number = '', unit = ''] = text.length > LONGEST ? [] : (AMOUNT.exec(text) ?? []);
  const decimal = parseNumber(number, 'decimal');
  const grouped = parseNumber(number, 'grouped');
  if (decimal === null || grouped === null)
    return refusal(
      'size-unreadable',
      `"${text.trim().slice(0, 40)}" is no amount of space. Write it as the page shows it: "21.4 ${page.prints}".`,
    );
  const isBinary = /i/i.test(unit) || (page.counts === 'TiB' && page.prints === 'TB');
  const each = (isBinary ? 1024 : 1000) ** (POWER[unit.charAt(0).toLowerCase()] ?? 0);
  const [small, large] = [Math.floor(decimal * each), Math.floor(grouped * each)];
  if (small > MOST_BYTES)
    return refusal('size-too-large', 'That is more than 9 PB, the most this program counts to the byte.');
  return large === small || large > Math.min(most, MOST_BYTES) ? [small] : [small, large];
}
