import type { Profile } from '../platform/profile';
import reedbank from '../platform/profiles/reedbank.json';
import { isRefusal } from '../value/refusal';
import { apply } from '../unit/apply';
import { describedUnit } from '../unit/describedUnit';
import type { UnitState } from '../unit/state';
import { asPage, hasColumns, pageTable, usualColumns, type PageTable } from './pageTable';
import { readPage } from './readPage';

const tableOf = (text: string): PageTable | null => pageTable(text.split('\n').map((line) => line.split(',')));
const LIST = [
  'Fach,Gerätenummer,Größe,Zustand,Hersteller',
  '1,QH8-04422-4KH2,8 TB,Normal,Fenside 9',
  '',
  '2,QH8-04417-77PX,8 TB,Failed,Fenside 9',
].join('\n');
const unit = (): UnitState => {
  const now = '2026-11-01T08:00:00.000Z';
  let state = describedUnit({ name: 'Heron', profile: reedbank as Profile, bays: 4 }, now) as UnitState;
  for (const [bay, serial] of [
    ['1', 'QH8-04422-4KH2'],
    ['2', 'QH8-04417-77PX'],
  ] as const)
    state = apply(
      state,
      { kind: 'drive-inserted', bay, drive: { serial, bytes: 8001563222016, basis: 'exact' } },
      now,
    ) as UnitState;
  return state;
};

describe('a list with headings', () => {
  it('is told from a page: two headings, each another, and rows below that reach as far', () => {
    expect(tableOf(LIST)?.head).toEqual(['Fach', 'Gerätenummer', 'Größe', 'Zustand', 'Hersteller']);
    expect(tableOf(`\n\n${LIST}`)?.headAt).toBe(2);
    for (const text of [
      'Bay 1  QH8-04422-4KH2  7.3 TB  Normal\nBay 2  QH8-04417-77PX  7.3 TB  Failed',
      '1,QH8-04422-4KH2\n2,QH8-04417-77PX',
      'Slot,Serial',
      'Slot,Slot\n1,2',
      '',
    ])
      expect([text, tableOf(text)]).toEqual([text, null]);
  });

  it('says by itself what is plain, and leaves to a person what is not', () => {
    expect(usualColumns({ head: ['Slot', 'S/N', 'Capacity', 'Health status', 'Model', 'Enclosure'] })).toEqual({
      bay: 'Slot',
      serial: 'S/N',
      size: 'Capacity',
      status: 'Health status',
      enclosure: 'Enclosure',
    });
    expect(usualColumns({ head: ['Drive serial', 'Drive'] })).toEqual({ bay: 'Drive' });
    expect(usualColumns(tableOf(LIST) as PageTable)).toEqual({});
  });

  it('is read by the columns that are said, row by row where it stands, and by no other', () => {
    const table = tableOf(LIST) as PageTable;
    const columns = { bay: 'Fach', serial: 'Gerätenummer', size: 'Größe', status: 'Zustand' };
    expect(hasColumns(table, columns)).toBe(true);
    const page = asPage(table, columns) as string;
    const { bays, unread } = readPage(page, unit());
    expect(unread).toEqual([]);
    expect(bays.map(({ line, bay, serial, state }) => [line, bay, serial, state])).toEqual([
      [2, '1', 'QH8-04422-4KH2', 'well'],
      [4, '2', 'QH8-04417-77PX', 'failed'],
    ]);
    // A word for the health in another column is none.
    expect(readPage(asPage(table, { bay: 'Fach', serial: 'Gerätenummer' }) as string, unit()).bays[1]?.state).toBe(
      undefined,
    );
  });

  it('names the heading that is not there', () => {
    const refused = asPage(tableOf(LIST) as PageTable, { bay: 'Fach', serial: 'Serial' });
    expect(isRefusal(refused) && [refused.pointer, refused.sentence]).toEqual([
      '/columns/serial',
      'No column is headed “Serial”: there are Fach, Gerätenummer, Größe, Zustand, Hersteller.',
    ]);
    expect(hasColumns(tableOf(LIST) as PageTable, { bay: 'Slot' })).toBe(false);
  });
});
