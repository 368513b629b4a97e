import { describe, expect, it } from '@jest/globals';
import papaparse from 'papaparse';
import { readStock } from './readStock';
import { differenceWords, stockDifferences, whyNotStock, type StockLine } from './stock';

const rows = (text: string): string[][] => papaparse.parse<string[]>(text).data;

describe('what a unit does for people', () => {
  it('is read as it is typed, and from a sheet', () => {
    const typed = readStock(
      'Share: Accounts, 12 people\nusers: mara\n\nblock volume: VM-1, 200 GB\nold scanner in the hall\n',
      rows,
    );
    expect(typed).toEqual([
      { what: 'share', name: 'Accounts', detail: '12 people' },
      { what: 'user', name: 'mara' },
      { what: 'block volume', name: 'VM-1', detail: '200 GB' },
      { what: 'other', name: 'old scanner in the hall' },
    ]);
    expect(readStock('What;Name;Detail\nshare;Accounts;"12 people; 3 groups"\nprinter;Hall;\n', rows)).toEqual([
      { what: 'share', name: 'Accounts', detail: '12 people; 3 groups' },
      { what: 'other', name: 'Hall' },
    ]);
  });

  it('is compared line by line, and capitals are no difference', () => {
    const before: StockLine[] = [
      { what: 'share', name: 'Accounts', detail: '12 people' },
      { what: 'user', name: 'mara' },
      { what: 'service', name: 'Cameras', detail: 'starts by itself' },
    ];
    const after: StockLine[] = [
      { what: 'share', name: 'ACCOUNTS', detail: '11 people' },
      { what: 'service', name: 'cameras', detail: 'Starts by itself' },
      { what: 'share', name: 'public' },
    ];
    expect(stockDifferences(before, after).map(differenceWords)).toEqual([
      'share ACCOUNTS, 11 people: was 12 people',
      'user mara: missing',
      'share public: was not there',
    ]);
    expect(stockDifferences(before, before)).toEqual([]);
    expect(whyNotStock([...before, { what: 'user', name: ' Mara ' }])).toMatchObject({
      code: 'stock-twice',
      pointer: '/evidence/lines/3/name',
    });
  });
});
