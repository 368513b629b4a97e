import fc from 'fast-check';
import { isRefusal } from '../value/refusal';
import { readDriveList } from './driveList';
import { SHEET_HEAD, sheetRows } from './driveSheet';
import { labelBytes } from './labelBytes';
import { readSize } from './readSize';

describe('labelBytes', () => {
  // IDEMA LBA1-03 (250 GB, 4 TB, 8 TB) and SFF-8447 (12 TB, 16 TB), published sector counts.
  it.each([
    [250, 488_397_168],
    [4000, 7_814_037_168],
    [8000, 15_628_053_168],
    [12000, 23_437_770_752],
    [16000, 31_251_759_104],
  ])('%d GB has %d sectors', (gigabytes, sectors) => expect(labelBytes(gigabytes)).toBe(sectors * 512));

  it('4 TB is 4,000,787,030,016 bytes', () => expect(labelBytes(4000)).toBe(4_000_787_030_016));

  it('is the plain decimal size in whole blocks up to 50 GB (common practice)', () => {
    expect(labelBytes(32)).toBe(32e9);
    expect(labelBytes(20)).toBe(Math.floor(20e9 / 4096) * 4096);
  });

  it('the two rules differ by about 1.1 GB just above 8 TB, so a label proves nothing', () => {
    const idemaAt8TB = labelBytes(8000);
    const sff = Math.ceil(8e12 / 512 / 2 ** 21) * 2 ** 21 * 512;
    expect(Math.abs(idemaAt8TB - sff) / 1e9).toBeCloseTo(1.1, 1);
  });

  it('follows SFF-8447 above 32 TB too, in whole numbers: multiples of 2²¹ sectors, the first that hold it', () => {
    for (const gigabytes of [36_000, 40_000, 44_000, 50_000, 61_440, 122_880, 9_000_000]) {
      const [bytes, block] = [BigInt(gigabytes) * 1_000_000_000n, 2n ** 21n * 512n];
      const blocks = (bytes + block - 1n) / block;
      expect([gigabytes, BigInt(labelBytes(gigabytes))]).toEqual([gigabytes, blocks * block]);
    }
  });

  it('gives whole sectors and never falls as labels grow (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200_000 }), (gigabytes) => {
        expect(labelBytes(gigabytes) % 512).toBe(0);
        if (gigabytes !== 8000) expect(labelBytes(gigabytes + 1)).toBeGreaterThanOrEqual(labelBytes(gigabytes));
      }),
    );
  });
});

describe('readSize', () => {
  it.each([
    ['12 TB', labelBytes(12000), 'label'],
    ['12TB', labelBytes(12000), 'label'],
    ['12000 GB', labelBytes(12000), 'label'],
    ['12.000 GB', labelBytes(12000), 'label'],
    ['1,92 TB', labelBytes(1920), 'label'],
    ['1.920 TB', labelBytes(1920), 'label'],
    ['1.920 GB', labelBytes(1920), 'label'],
    // Grouped these would be larger than any drive that is sold.
    ['500.107 GB', labelBytes(500.107), 'label'],
    ['960,197 GB', labelBytes(960.197), 'label'],
    ['120.034 GB', labelBytes(120.034), 'label'],
    ['61.440 TB', labelBytes(61_440), 'label'],
    ['36,000 GB', labelBytes(36_000), 'label'],
    ['931.513 GiB', Math.floor(931.513 * 2 ** 30), 'binary'],
    ['447.130 GiB', Math.floor(447.13 * 2 ** 30), 'binary'],
    ['11.2 TiB', Math.floor(11.2 * 2 ** 40), 'binary'],
    ['11,2 tib', Math.floor(11.2 * 2 ** 40), 'binary'],
    ['12000138625024', 12_000_138_625_024, 'exact'],
    ['12 000 138 625 024 bytes', 12_000_138_625_024, 'exact'],
    ['23,437,770,752 sectors', 12_000_138_625_024, 'exact'],
  ])('%s', (text, bytes, basis) => expect(readSize(text)).toMatchObject({ kind: 'drive-size', bytes, basis }));

  it.each([
    ['', 'size-missing'],
    ['-4 TB', 'size-not-positive'],
    ['0 TB', 'size-not-positive'],
    ['12', 'size-without-unit'],
    ['12 TX', 'size-unit-unknown'],
    ['twelve', 'size-unreadable'],
    ['=12', 'size-unreadable'],
    ['12 PB', 'size-too-large'],
    ['99999999999999999', 'size-too-large'],
    ['1.5 bytes', 'size-unreadable'],
    // A small flash drive of former days, or one that is larger than any disk.
    ['61.440 GB', 'size-either'],
    ['122,880 GB', 'size-either'],
  ])('refuses %p as %s', (text, code) => expect(readSize(text)).toMatchObject({ kind: 'refusal', code }));

  it('never throws and never returns a size out of range (property)', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom('', ' TB', 'GiB', ' sectors'), (text, unit) => {
        const size = readSize(text + unit);
        if (!isRefusal(size)) expect(Number.isInteger(size.bytes) && size.bytes >= 1 && size.bytes <= 9e15).toBe(true);
      }),
    );
  });
});

describe('readDriveList', () => {
  const read = (text: string) => readDriveList(text.split('\n').map((line) => line.split(';')));

  // Worked by hand.
  it.each([
    [
      'size\n4 x 2 TB',
      [
        ['1', 2],
        ['2', 2],
        ['3', 2],
        ['4', 2],
      ],
    ],
    [
      'size\n2 TB x 3',
      [
        ['1', 2],
        ['2', 2],
        ['3', 2],
      ],
    ],
    [
      '3 x 2 TB\n\n8 TB',
      [
        ['1', 2],
        ['2', 2],
        ['3', 2],
        ['4', 8],
      ],
    ],
    [
      'bay;size;count\n3;8 TB;2\n;4 TB;2',
      [
        ['1', 4],
        ['2', 4],
        ['3', 8],
        ['4', 8],
      ],
    ],
    [
      'size;quantity\n8 TB;1\n4× 2 TB;4',
      [
        ['1', 8],
        ['2', 2],
        ['3', 2],
        ['4', 2],
        ['5', 2],
      ],
    ],
  ])('takes %j as so many drives', (text, drives) => {
    const list = read(text);
    expect(list.problems).toEqual([]);
    expect(list.drives.map(({ bay, bytes }) => [bay, Math.round(bytes / 1e12)])).toEqual(drives);
  });

  it.each([
    ['size;count\n2 TB;0', 'not a number of drives'],
    ['size;count\n2 TB;two', 'not a number of drives'],
    ['size;count\n3 x 2 TB;4', 'The count says 4 and the size 3.'],
    ['size;count;serial\n2 TB;2;QH2-1', 'One serial cannot be that of 2 drives'],
    ['bay;size;count\nA;2 TB;2', '2 drives need bays that are numbers'],
    ['bay;size;count\n2;8 TB;1\n1;2 TB;2', 'Bay 2 is already taken by row 2.'],
  ])('says what is wrong with %j', (text, reason) => {
    expect(
      read(text)
        .problems.map((one) => one.reason)
        .join(' '),
    ).toContain(reason);
  });

  it('names a column that it does not understand, and takes the rest; an empty one is nothing', () => {
    const list = read('size;spindle colour;empty\n2 TB;blue;\n4 TB;;');
    expect(list.drives).toHaveLength(2);
    expect(list.problems).toEqual([
      {
        kind: 'list-problem',
        row: 1,
        column: 'spindle colour',
        reason: expect.stringContaining('“spindle colour” is not understood'),
      },
    ]);
  });

  it('takes any order of columns, labels or bytes, and sorts by bay', () => {
    const { drives, problems } = read('Serial number;Price;Size;Bay\nQ8-1;249,90;12 TB;2\nQ8-2;€ 1.249,00;11,2 TiB;1');
    expect(problems).toEqual([]);
    expect(drives).toMatchObject([
      { bay: '1', serial: 'Q8-2', basis: 'binary', priceCents: 124900, row: 3 },
      { bay: '2', serial: 'Q8-1', bytes: labelBytes(12000), label: '12 TB', priceCents: 24990, row: 2 },
    ]);
  });

  it('lets exact bytes win over the label, and fills in missing bays', () => {
    const { drives } = read('size;bytes;bay\n12 TB;12000138625025;\n4 TB;;1');
    expect(drives).toMatchObject([
      { bay: '1', basis: 'label' },
      { bay: '2', bytes: 12_000_138_625_025, basis: 'exact' },
    ]);
  });

  it('names row, column and reason, and keeps the good rows', () => {
    const { drives, problems } = read(
      'Bay;Capacity;S/N\n1;-8 TB;A\n2;8 TB;B\n2;8 TB;C\n4;8 TB;b\n5;eight;E\n6;8 TB;=HYPERLINK("x")',
    );
    expect(drives.map(({ bay }) => bay)).toEqual(['2', '6']);
    expect(drives[1]?.serial).toBe('=HYPERLINK("x")');
    expect(problems.map(({ row, column }) => [row, column])).toEqual([
      [2, 'Capacity'],
      [4, 'Bay'],
      [5, 'S/N'],
      [6, 'Capacity'],
    ]);
    expect(problems[1]?.reason).toBe('Bay 2 is already taken by row 3.');
    expect(problems[2]?.reason).toBe('Serial b is already on row 3.');
  });

  it.each([
    ['', 0, /empty/],
    ['\n \n', 0, /empty/],
    ['bay;size;serial', 1, /no drive below/],
    ['bay;colour\n1;red', 1, /no column for the size/],
    ['PK\u0003\u0004\u0000\u0000;x\n1;2', 0, /not a text file/],
  ])('says what is wrong with the whole of %p', (text, row, reason) => {
    const { drives, problems } = read(text);
    expect(drives).toEqual([]);
    expect(problems).toHaveLength(1);
    expect(problems[0]?.row).toBe(row);
    expect(problems[0]?.reason).toMatch(reason);
  });

  it('reads ten thousand rows', () => {
    const rows = Array.from({ length: 10_000 }, (_, i) => `${String(i + 1)};8 TB;S${String(i)}`).join('\n');
    expect(read(`bay;size;serial\n${rows}`).drives).toHaveLength(10_000);
  });

  it('reads the kind of drive, and names one it does not know', () => {
    const { drives, problems } = read('size;kind\n8 TB;HDD\n8 TB;shingled\n2 TB;SSD\n2 TB;NVMe\n8 TB;\n8 TB;drum');
    expect(drives.map(({ media }) => media)).toEqual(['hard-disk', 'shingled', 'ssd', 'nvme', undefined]);
    expect(problems).toMatchObject([{ row: 7, column: 'kind' }]);
  });

  it('takes back the apostrophe that sets a formula off', () => {
    expect(read("size;serial\n8 TB;'=1+1").drives[0]?.serial).toBe('=1+1');
  });

  it('keeps when a drive was bought and its lot, and writes them again', () => {
    const { drives, problems } = read(
      'size;serial;Purchase date;Batch\n8 TB;Q-1;2021-03-04;0412\n8 TB;Q-2;4. 3.2021;\n8 TB;Q-3;;0413',
    );
    expect(problems).toEqual([]);
    expect(drives).toMatchObject([
      { boughtOn: '2021-03-04', lot: '0412' },
      { boughtOn: '2021-03-04' },
      { lot: '0413' },
    ]);
    const again = readDriveList([[...SHEET_HEAD], ...sheetRows(drives).map((row) => row.map(String))]);
    expect(again.drives).toEqual(drives);
    // On record the bytes count, whatever the label says.
    expect(sheetRows([{ bay: '1', bytes: 8e12, basis: 'label', label: '8 TB' }], true)[0]?.slice(0, 3)).toEqual([
      '1',
      '8 TB',
      8e12,
    ]);
    for (const day of ['03/04/2021', '2021-02-30', '31.4.2021', 'last year'])
      expect(read(`size;bought\n8 TB;${day}`).problems).toMatchObject([{ row: 2, column: 'bought' }]);
  });

  it('names a wrong price', () => {
    expect(read('size;price\n8 TB;cheap').problems).toMatchObject([{ row: 2, column: 'price' }]);
  });
});
