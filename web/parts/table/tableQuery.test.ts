import { describe, expect, it } from '@jest/globals';
import { addressOf, tableQueryOf } from './tableQuery';

const COLUMNS = ['serial', 'bytes', 'model'];
const NOTHING = { words: '', sort: null, without: [], from: 0 };

describe('tableQuery', () => {
  it('writes what it reads, and reads what it writes', () => {
    const query = { words: 'coot 2', sort: { id: 'bytes', desc: true }, without: ['model'], from: 50 };
    const address = addressOf('/drives', { tab: 'all' }, query, {});
    // Nothing changed but where it begins, which a change of anything begins anew.
    expect(address).toBe('/drives?tab=all&q=coot+2&sort=-bytes&without=model');
    const again = addressOf('/drives', {}, query, { from: 50 });
    const read = Object.fromEntries(new URLSearchParams(again.split('?')[1]));
    expect(tableQueryOf(read, COLUMNS)).toEqual(query);
    expect(addressOf('/drives', {}, query, NOTHING)).toBe('/drives');
  });

  it('keeps two lists of one page apart by the name before their words', () => {
    const one = addressOf('/settings', {}, tableQueryOf({}, COLUMNS, 'a-'), { words: 'coot' }, 'a-');
    const read = Object.fromEntries(new URLSearchParams(one.split('?')[1]));
    expect(tableQueryOf(read, COLUMNS, 'a-').words).toBe('coot');
    expect(tableQueryOf(read, COLUMNS, 'b-')).toEqual(NOTHING);
    expect(tableQueryOf(read, COLUMNS)).toEqual(NOTHING);
  });

  it('takes what is not a column, not a number or not one value for nothing', () => {
    for (const asked of [
      { sort: 'colour' },
      { sort: '-' },
      { without: 'colour' },
      { from: '-3' },
      { from: '1.5' },
      { from: '1e99' },
      { q: ['a', 'b'] },
    ])
      expect(tableQueryOf(asked, COLUMNS)).toEqual(NOTHING);
    expect(tableQueryOf({ q: 'x'.repeat(500) }, COLUMNS).words).toHaveLength(100);
  });
});
