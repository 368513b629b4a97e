import { refusal, type Refusal } from '../value/refusal';
import { MOST_BYTES } from './bytes';
import { parseNumber } from './parseNumber';

/** No amount is written longer; what reads it looks at every character more than once. */
const LONGEST = 80;
const POWER: Readonly<Record<string, number>> = { k: 1, m: 2, g: 3, t: 4, p: 5 };

/**
 * An amount of space as a unit's page shows it, in bytes: "21.4 TiB", "9,5 TB". Many pages count in 1024s and print "TB".
 *
 * @param page what it counts in, and prints
 */
export function shownAmount(
  text: string,
  page: { readonly counts: 'TiB' | 'TB'; readonly prints: 'TiB' | 'TB' },
): number | Refusal {
  const [, number = '', prefix = '', binary] =
    text.length > LONGEST ? [] : (/^\s*(\d[\d.,\s]*?)\s*([kmgtp])(i)?b\s*$/i.exec(text) ?? []);
  const amount = parseNumber(number, 'decimal');
  if (amount === null)
    return refusal(
      'size-unreadable',
      `"${text.trim().slice(0, 40)}" is no amount of space. Write it as the page shows it: "21.4 ${page.prints}".`,
    );
  const base = binary !== undefined || (page.counts === 'TiB' && page.prints === 'TB') ? 1024 : 1000;
  const bytes = Math.floor(amount * base ** (POWER[prefix.toLowerCase()] ?? 0));
  return bytes > MOST_BYTES
    ? refusal('size-too-large', 'That is more than 9 PB, the most this program counts to the byte.')
    : bytes;
}
