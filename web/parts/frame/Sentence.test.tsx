/** @jest-environment jsdom */
import { expect, it } from '@jest/globals';
import { render } from '@testing-library/react';
import { Sentence } from './Sentence';

it('keeps a serial and a day in one piece, says the same words, and parts what is longer than a line', () => {
  const long = `${'A1-'.repeat(12)}Z`;
  const words = `Pull bay 2, QH8-04417-77PX, bought on 2026-11-30: it is well-known. ${long}`;
  const { container } = render(<Sentence of={words} />);
  expect(container.textContent).toBe(words);
  expect([...container.querySelectorAll('.whitespace-nowrap')].map((one) => one.textContent)).toEqual([
    'QH8-04417-77PX',
    '2026-11-30',
  ]);
});
