import { serialKey } from './serial';
import { compareBays } from '../quantity/bayOrder';
import { parseNumber } from '../quantity/parseNumber';
import { isRefusal } from '../value/refusal';
import { readMedia, type Media } from './media';
import { readSize, type SizeBasis } from './readSize';

/** A drive in hand, as a list of drives describes it. Text fields hold exactly what was written. */
export interface ListedDrive {
  readonly kind: 'listed-drive';
  /** The row of the sheet it came from, counted from 1 with the head as row 1. */
  readonly row: number;
  readonly bay: string;
  readonly bytes: number;
  readonly basis: SizeBasis;
  readonly label?: string;
  readonly serial?: string;
  readonly model?: string;
  /** Left out means a conventional hard disk. */
  readonly media?: Media;
  /** In whole hundredths of the user's currency. */
  readonly priceCents?: number;
  /** A day, as 2026-01-31. */
  readonly boughtOn?: string;
  /** The batch printed on it. */
  readonly lot?: string;
}

/** What is wrong with one cell, so that the person can find it: row and column as the sheet shows them. */
export interface ListProblem {
  readonly kind: 'list-problem';
  /** 1 is the head; 0 is the sheet as a whole. */
  readonly row: number;
  readonly column?: string;
  readonly reason: string;
}

export interface DriveList {
  readonly kind: 'drive-list';
  readonly drives: readonly ListedDrive[];
  readonly problems: readonly ListProblem[];
}

type Column = 'count' | 'bay' | 'size' | 'bytes' | 'serial' | 'model' | 'media' | 'price' | 'bought' | 'lot';

const COLUMN_NAMES: Record<Column, readonly string[]> = {
  count: ['count', 'quantity', 'qty', 'pieces', 'howmany', 'amount'],
  bay: ['bay', 'bayno', 'baynumber', 'tray', 'slot', 'position'],
  size: ['size', 'label', 'capacity', 'labelsize', 'drivesize'],
  bytes: ['bytes', 'exactbytes', 'sizebytes', 'bytesexact', 'sizeinbytes'],
  serial: ['serial', 'serialnumber', 'serialno', 'sn'],
  model: ['model', 'modelnumber', 'drive'],
  media: ['kind', 'media', 'medium', 'type', 'drivetype'],
  price: ['price', 'cost', 'paid'],
  bought: ['bought', 'boughton', 'purchased', 'purchasedate', 'dateofpurchase'],
  lot: ['lot', 'batch', 'lotno', 'batchno'],
};

const MOST_LOT = 40;

/** As many drives as one row stands for, at most. */
const MOST_IN_A_ROW = 1000;

/** Longest text kept of a cell; serials and models are far shorter. */
const MOST_TEXT = 64;

/**
 * Reads a sheet of the drives in hand: a head row, then a drive a row, in any order of columns.
 *
 * Good rows are kept whatever the others hold; each wrong cell is named by row, column and reason. A size comes from
 * `bytes` when that cell is filled (exact bytes win) and from `size` otherwise. A row stands for as many drives as its count
 * says, or its size ("4 x 2 TB"): they take bays one after another from the one that is named. A row without a bay gets the
 * lowest free numbers. Duplicate bays and serials are problems of the later row; a column that is not understood is named.
 *
 * @param cells rows of cells as a CSV reader (RFC 4180) gives them, without blank rows removed
 */
export function readDriveList(cells: readonly (readonly string[])[]): DriveList {
  const problems: ListProblem[] = [];
  const isBlank = (row: readonly string[] | undefined): boolean => !row || row.every((cell) => cell.trim() === '');
  const headAt = cells.findIndex((row) => !isBlank(row));
  const sheetProblem = (reason: string, row = 0): DriveList => done([], [problem(row, undefined, reason)]);
  if (headAt < 0)
    return sheetProblem(
      'The sheet is empty. It needs a head row such as "bay,size,serial,model,price" and a drive on each row after it.',
    );
  if (cells.some((row) => row.some((cell) => /[\u0000\ufffd]/.test(cell)))) {
    return sheetProblem('This is not a text file. Save the sheet as CSV (plain text, UTF-8) and try again.');
  }

  if (isSizesAlone(cells)) {
    const { drives, problems: found } = readDriveList([['size'], ...cells]);
    return done(
      drives.map((drive) => ({ ...drive, row: drive.row - 1 })),
      found.map((one) => ({ ...one, row: one.row - 1 })),
    );
  }
  const head = cells[headAt] as readonly string[];
  const columns = new Map<Column, number>();
  head.forEach((name, index) => {
    const column = columnNamed(name);
    if (column === undefined) {
      const isFilled = cells.slice(headAt + 1).some((row) => (row[index] ?? '').trim() !== '');
      if (isFilled)
        problems.push(
          problem(
            headAt + 1,
            name.trim(),
            `The column “${name.trim().slice(0, 40)}” is not understood: what stands in it is left out.`,
          ),
        );
      return;
    }
    if (columns.has(column))
      problems.push(problem(headAt + 1, name.trim(), `There are two columns for the ${column}; the first is used.`));
    else columns.set(column, index);
  });
  if (!columns.has('size') && !columns.has('bytes')) {
    return sheetProblem(
      'The head row names no column for the size. Call one "size" (as on the label, "12 TB") or "bytes".',
      headAt + 1,
    );
  }

  const drives: ListedDrive[] = [];
  const rowOfBay = new Map<string, number>();
  const rowOfSerial = new Map<string, number>();
  const wantsBay: number[] = [];
  cells.slice(headAt + 1).forEach((row, offset) => {
    if (isBlank(row)) return;
    const number = headAt + 2 + offset;
    // An apostrophe before a formula sign is how sheets set it off; it is not part of the text.
    const cell = (column: Column): string =>
      (row[columns.get(column) ?? -1]?.trim() ?? '').replace(/^'(?=[=+\-@])/, '');
    const name = (column: Column): string => head[columns.get(column) ?? -1]?.trim() ?? column;
    const before = problems.length;
    const wrong = (column: Column, reason: string): void => void problems.push(problem(number, name(column), reason));

    const sizeColumn: Column = cell('bytes') !== '' || !columns.has('size') ? 'bytes' : 'size';
    const { times, each } = severalOf(cell(sizeColumn));
    const size = readSize(sizeColumn === 'bytes' && /^[\d.,\s]+$/.test(each) ? `${each} B` : each);
    if (isRefusal(size)) wrong(sizeColumn, size.sentence);
    const count = cell('count') === '' ? times : Number(cell('count'));
    if (!Number.isInteger(count) || count < 1 || count > MOST_IN_A_ROW)
      wrong('count', `"${cell('count').slice(0, 20)}" is not a number of drives: 1 to ${String(MOST_IN_A_ROW)}.`);
    else if (cell('count') !== '' && times > 1 && count !== times)
      wrong('count', `The count says ${String(count)} and the size ${String(times)}.`);

    const bay = cell('bay').replace(/^bay\s+/i, '');
    const bays = baysFrom(bay, count);
    const taken = bays?.find((one) => rowOfBay.has(one));
    if (bay !== '' && !/^[\w.:/ -]{1,16}$/.test(bay))
      wrong('bay', `"${bay.slice(0, 20)}" is not the name of a bay: up to 16 letters, digits and dashes.`);
    else if (bays === null)
      wrong('bay', `${String(count)} drives need bays that are numbers, or none: "${bay}" is one.`);
    else if (taken !== undefined) wrong('bay', `Bay ${taken} is already taken by row ${String(rowOfBay.get(taken))}.`);

    const serial = cell('serial');
    if (serial !== '' && count > 1)
      wrong('serial', `One serial cannot be that of ${String(count)} drives: give each a row.`);
    const key = serialKey(serial);
    if (serial.length > MOST_TEXT) wrong('serial', `A serial has at most ${String(MOST_TEXT)} characters.`);
    else if (serial !== '' && rowOfSerial.has(key))
      wrong('serial', `Serial ${serial} is already on row ${String(rowOfSerial.get(key))}.`);
    if (cell('model').length > MOST_TEXT) wrong('model', `A model has at most ${String(MOST_TEXT)} characters.`);

    const media = readMedia(cell('media'));
    if (media === null)
      wrong(
        'media',
        `"${cell('media').slice(0, 20)}" is not a kind of drive known here: hard disk, shingled, SSD or NVMe.`,
      );

    const price = cell('price') === '' ? undefined : readPrice(cell('price'));
    if (price === null) wrong('price', `"${cell('price').slice(0, 20)}" is not a price. Write 249 or 249.90.`);

    const boughtOn = cell('bought') === '' ? undefined : readDay(cell('bought'));
    if (boughtOn === null)
      wrong('bought', `"${cell('bought').slice(0, 20)}" is not a day. Write 2026-01-31 or 31.1.2026.`);
    if (cell('lot').length > MOST_LOT) wrong('lot', `A lot has at most ${String(MOST_LOT)} characters.`);

    if (problems.length > before || isRefusal(size)) return;
    if (serial !== '') rowOfSerial.set(key, number);
    const drive = {
      kind: 'listed-drive' as const,
      row: number,
      bytes: size.bytes,
      basis: size.basis,
      ...(size.label === undefined ? {} : { label: size.label }),
      ...(serial === '' ? {} : { serial }),
      ...(media === null || cell('media') === '' ? {} : { media }),
      ...(cell('model') === '' ? {} : { model: cell('model') }),
      ...(price === undefined || price === null ? {} : { priceCents: price }),
      ...(boughtOn === undefined || boughtOn === null ? {} : { boughtOn }),
      ...(cell('lot') === '' ? {} : { lot: cell('lot') }),
    };
    for (const one of bays ?? []) {
      if (one === '') wantsBay.push(drives.length);
      else rowOfBay.set(one, number);
      drives.push({ ...drive, bay: one });
    }
  });

  let free = 1;
  for (const index of wantsBay) {
    while (rowOfBay.has(String(free))) free++;
    const drive = drives[index] as ListedDrive;
    rowOfBay.set(String(free), drive.row);
    drives[index] = { ...drive, bay: String(free) };
  }
  if (drives.length === 0 && problems.length === 0)
    return sheetProblem('There is a head row and no drive below it.', headAt + 1);
  return done(drives, problems);
}

/** A list without a head, of sizes and nothing else: "4 x 2 TB" and "8 TB" on two lines. */
function isSizesAlone(cells: readonly (readonly string[])[]): boolean {
  const filled = cells
    .map((row) => row.map((cell) => cell.trim()).filter((cell) => cell !== ''))
    .filter((row) => row.length > 0);
  return filled.every(
    ([first = '', ...others]) => others.length === 0 && /\d/.test(first) && !isRefusal(readSize(severalOf(first).each)),
  );
}

/** "4 x 2 TB", "2 TB x 4", "4× 2 TB": how many, and of which size. */
function severalOf(text: string): { readonly times: number; readonly each: string } {
  const before = /^(\d{1,4})\s*[x×*]\s*(\S.*)$/i.exec(text);
  if (before) return { times: Number(before[1]), each: before[2] ?? '' };
  const after = /^(.*\S)\s*[x×*]\s*(\d{1,4})$/i.exec(text);
  return after ? { times: Number(after[2]), each: after[1] ?? '' } : { times: 1, each: text };
}

/** Bays one after another from a named one; without a name as many unnamed; `null` where the name cannot be counted on from. */
function baysFrom(bay: string, count: number): readonly string[] | null {
  const many = Number.isInteger(count) ? Math.min(Math.max(count, 1), MOST_IN_A_ROW) : 1;
  if (bay === '' || many === 1) return Array.from({ length: many }, () => bay);
  return /^\d{1,6}$/.test(bay) ? Array.from({ length: many }, (_, i) => String(Number(bay) + i)) : null;
}

function done(drives: ListedDrive[], problems: ListProblem[]): DriveList {
  drives.sort((a, b) => compareBays(a.bay, b.bay));
  return Object.freeze({
    kind: 'drive-list',
    drives: Object.freeze(drives.map((drive) => Object.freeze(drive))),
    problems: Object.freeze(problems),
  });
}

function problem(row: number, column: string | undefined, reason: string): ListProblem {
  return Object.freeze({ kind: 'list-problem', row, ...(column === undefined ? {} : { column }), reason });
}

function columnNamed(name: string): Column | undefined {
  const plain = name
    .slice(0, 100)
    .toLowerCase()
    .replace(/\(.*?\)/g, '')
    .replace(/[^a-z]/g, '');
  return (Object.keys(COLUMN_NAMES) as Column[]).find((column) => COLUMN_NAMES[column].includes(plain));
}

/** A price with or without a currency sign, in hundredths; `null` when it is no price. */
function readPrice(text: string): number | null {
  const number = parseNumber(text.replace(/[\p{Sc}]|[A-Z]{3}/gu, ''), 'grouped');
  if (number === null || number < 0 || number > 1e9) return null;
  return Math.round(number * 100);
}

/** A day as 2026-01-31 or 31.1.2026; `null` when it is none, or one that can be read two ways. */
function readDay(text: string): string | null {
  const [, year, month, day] = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text) ?? [];
  const [, d, m, y] = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})$/.exec(text) ?? [];
  const written = `${year ?? y ?? ''}-${(month ?? m ?? '').padStart(2, '0')}-${(day ?? d ?? '').padStart(2, '0')}`;
  const time = Date.parse(`${written}T00:00:00Z`);
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(written) ? written : null;
}
