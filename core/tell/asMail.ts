import { SEVERITY_WORDS } from './severity';
import type { ToTell } from './isDue';

const LONGEST_SUBJECT = 140;

/**
 * All that somebody is told at one time, as one mail: plain text, the gravest first.
 *
 * @param base where the shelf is reached, for the links
 */
export function asMail(due: readonly ToTell[], base: string): { readonly subject: string; readonly text: string } {
  const sorted = inOrder(due);
  const [first] = sorted;
  if (!first) throw new Error('There is nothing to tell.');
  const more = sorted.length === 1 ? '' : `, and ${String(sorted.length - 1)} more`;
  const subject = `${oneLine(first.title).slice(0, LONGEST_SUBJECT - more.length)}${more}`;
  const parts = sorted.map((one) =>
    [
      one.title,
      one.kind === 'news' || one.unit === '' ? '' : `(${SEVERITY_WORDS[one.severity]}; ${one.site})`,
      one.reason,
      one.others === 0 ? '' : `And ${String(one.others)} more of the same cause.`,
      pageOf(base, one.unit),
    ]
      .filter((line) => line !== '')
      .join('\n'),
  );
  const seen = sorted.some(({ kind }) => kind === 'cause')
    ? `\n\nWhoever looks after it says so on the shelf, and nobody is told again: ${base}/`
    : '';
  return { subject, text: `${parts.join('\n\n')}${seen}\n` };
}

/** Where a unit is seen; the shelf where it is about none. */
export function pageOf(base: string, unit: string): string {
  return unit === '' ? `${base}/` : `${base}/units/${unit}`;
}

/** The gravest first; of equals, by their words. */
export function inOrder(due: readonly ToTell[]): ToTell[] {
  const rank = { margin: 0, sign: 1, care: 2 };
  return [...due].sort((a, b) => rank[a.severity] - rank[b.severity] || (a.title < b.title ? -1 : 1));
}

/** Without what would end a line of a mail's head (RFC 5322, 2.1.1). */
function oneLine(words: string): string {
  return words.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').trim();
}
