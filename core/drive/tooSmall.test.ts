import { expect, it } from '@jest/globals';
import { labelBytes } from './labelBytes';
import { shortWords, tooSmallWords } from './tooSmall';

const needs = labelBytes(8000);
/** Groups of three are set apart by a space of their own. */
const plain = (text: string): string => text.replace(/\s/g, ' ');

it.each([
  [1, '1 sector short'],
  [512, '1 sector short'],
  [513, '2 sectors short'],
  [41 * 512, '41 sectors short'],
])('%d bytes less are %s', (less, words) => expect(shortWords(needs - less, needs)).toBe(words));

it('counts what two rules for one label differ by in sectors, and a smaller class in terabytes', () => {
  // IDEMA LBA1-03 and SFF-8447 lie 1.1 GB apart at 8 TB.
  expect(plain(shortWords(needs - 1_100_000_000, needs))).toBe('2 148 438 sectors short');
  expect(shortWords(labelBytes(4000), needs)).toBe('too small by 4 TB');
  expect(plain(tooSmallWords('N', needs - 41 * 512, needs))).toBe(
    'N is 41 sectors short: it holds 8 001 563 201 024 bytes, 8 001 563 222 016 are needed.',
  );
});
