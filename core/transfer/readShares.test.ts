import { expect, it } from '@jest/globals';
import { isRefusal } from '../value/refusal';
import { readShares } from './readShares';

const rowsOf = (text: string): string[][] => text.split('\n').map((line) => line.split(/[,;\t]/));
const read = (text: string) => readShares(text, rowsOf, 3e6);

it.each([
  ['Maps, 1.2 TB, 40000', [['Maps', 1.2e12, 40000]]],
  [
    'share;size;files\nMaps;2 TB;7\n\nPapers;300 GB;1 000 000',
    [
      ['Maps', 2e12, 7],
      ['Papers', 3e11, 1_000_000],
    ],
  ],
  ['Maps\t3 TB', [['Maps', 3e12, 1_000_000]]],
  [', 1 TB, 2', [['Line 1', 1e12, 2]]],
  ['', []],
])('reads %p', (text, expected) => {
  const shares = read(text);
  expect(
    isRefusal(shares)
      ? shares.sentence
      : shares.map(({ name, bytes, files }) => [
          name,
          Math.round(bytes / 1e10) * 1e10,
          Math.round(files / 1e3) * 1e3 || files,
        ]),
  ).toEqual(expected);
});

it.each([
  ['Maps', /Line 1: write the size of Maps/],
  ['Maps, 1 TB\nPapers, much', /Line 2: "much" is not a size/],
  ['Maps, 1 TB, many', /Line 1: “many” is no number of files/],
  ['Maps, 1 TB, 0', /no number of files/],
  [Array.from({ length: 201 }, () => 'S, 1 TB').join('\n'), /At most 200 shares/],
])('says what is wrong with %p', (text, words) => {
  const shares = read(text);
  expect(isRefusal(shares) && shares.sentence).toMatch(words);
});
