import { expect, it } from '@jest/globals';
import { percentTyped } from './percentTyped';

it.each<[string, number | undefined, number | null]>([
  ['42', undefined, 42],
  [' 42,5 % ', undefined, 42.5],
  ['100%', undefined, 100],
  ['101', undefined, null],
  ['520 GB', undefined, null],
  ['520 GB', 1e12, 52],
  ['1 TB', 1e12, 100],
  ['1.1 TB', 1e12, null],
  ['half', 1e12, null],
  ['', 1e12, null],
])('reads %j of %p bytes as %p percent', (text, whole, percent) => {
  expect(percentTyped(text, whole)).toBe(percent);
});
