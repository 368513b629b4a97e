import { describe, expect, it } from '@jest/globals';
import { scansTyped } from './scansTyped';

describe('what came at once', () => {
  it('is as many scans as lines, and none for a blank one', () => {
    expect(scansTyped('QH8-1\r\n qh8-2 \n\nQH8-3\tQH8-4;QH8-5, QH8-6\u200b\n')).toHaveLength(6);
    expect(scansTyped(' \n\u2800\n')).toEqual([]);
  });

  it('parts known serials that ran together, and no others', () => {
    const known = ['QH8-1', 'QH8-2', 'QH8-21'];
    expect(scansTyped('qh8-1QH8-2', known)).toEqual(['QH8-1', 'QH8-2']);
    expect(scansTyped('QH8-1QH8-2QH8-21', known)).toEqual(['QH8-1', 'QH8-2', 'QH8-21']);
    // One that is known as it is, or is known in part only, stays whole.
    expect(scansTyped('QH8-21', known)).toEqual(['QH8-21']);
    expect(scansTyped('QH8-1QH8-9', known)).toEqual(['QH8-1QH8-9']);
  });

  it('keeps a serial that is shown in groups together', () => {
    expect(scansTyped('QH8 0001 22')).toEqual(['QH8 0001 22']);
  });
});
