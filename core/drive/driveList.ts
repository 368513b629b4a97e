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

type Column = 'bay' | 'size' | 'bytes' | 'serial' | 'model' | 'media' | 'price' | 'bought' | 'lot';

const COLUMN_NAMES: Record<Column, readonly string[]> = {
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

/** Longest text kept of a cell; serials and models are far shorter. */
const MOST_TEXT = 64;

/**
 * Reads a sheet of the drives in hand: a head row, then a drive a row, in any order of columns.
 *
 * Good rows are kept whatever the others hold; each wrong cell is named by row, column and reason. A size comes from
 * `bytes` when that cell is filled (exact bytes win) and from `size` otherwise. A row without a bay gets the lowest
 * free number. Duplicate bays and serials are problems of the later row.
 *
 * @param cells rows of cells as a CSV reader (RFC 4180) gives them, without blank rows removed
 */
export function readDriveList(cells: readonly (readonly string[])[]): DriveList {
  const problems: ListProblem[] = [];
  const isBlank = (row: readonly string[] | undefined): boolean => !row || row.every((cell) => cell.trim() === '');
  const headAt = cells.findIndex((row) => !isBlank(row));
  const sheetProblem = (reason: string, row = 0): DriveList => done([], [problem(row, undefined, reason)]);
  if (headAt < 0) return sheetProblem('The sheet is empty. It needs a head row such as "bay,size,serial,model,price" and a drive on each row after it.');
  if (cells.some((row) => row.some((cell) => /[\u0000\ufffd]/.test(cell)))) {
    return sheetProblem('This is not a text file. Save the sheet as CSV (plain text, UTF-8) and try again.');
  }

  const head = cells[headAt] as readonly string[];
  const columns = new Map<Column, number>();
  head.forEach((name, index) => {
    const column = columnNamed(name);
    if (column === undefined) return;
    if (columns.has(column)) problems.push(problem(headAt + 1, name.trim(), `There are two columns for the ${column}; the first is used.`));
    else columns.set(column, index);
  });
  if (!columns.has('size') && !columns.has('bytes')) {
    return sheetProblem('The head row names no column for the size. Call one "size" (as on the label, "12 TB") or "bytes".', headAt + 1);
  }

  const drives: ListedDrive[] = [];
  const rowOfBay = new Map<string, number>();
  const rowOfSerial = new Map<string, number>();
  const wantsBay: number[] = [];
  cells.slice(headAt + 1).forEach((row, offset) => {
    if (isBlank(row)) return;
    const number = headAt + 2 + offset;
    // An apostrophe before a formula sign is how sheets set it off; it is not part of the text.
    const cell = (column: Column): string => (row[columns.get(column) ?? -1]?.trim() ?? '').replace(/^'(?=[=+\-@])/, '');
    const name = (column: Column): string => head[columns.get(column) ?? -1]?.trim() ?? column;
    const before = problems.length;
    const wrong = (column: Column, reason: string): void => void problems.push(problem(number, name(column), reason));

    const sizeColumn: Column = cell('bytes') !== '' || !columns.has('size') ? 'bytes' : 'size';
    const size = readSize(sizeColumn === 'bytes' && /^[\d.,\s]+$/.test(cell('bytes')) ? `${cell('bytes')} B` : cell(sizeColumn));
    if (isRefusal(size)) wrong(sizeColumn, size.sentence);

    const bay = cell('bay').replace(/^bay\s+/i, '');
    if (bay !== '' && !/^[\w.:/ -]{1,16}$/.test(bay)) wrong('bay', `"${bay.slice(0, 20)}" is not the name of a bay: up to 16 letters, digits and dashes.`);
    else if (rowOfBay.has(bay)) wrong('bay', `Bay ${bay} is already taken by row ${String(rowOfBay.get(bay))}.`);

    const serial = cell('serial');
    const key = serialKey(serial);
    if (serial.length > MOST_TEXT) wrong('serial', `A serial has at most ${String(MOST_TEXT)} characters.`);
    else if (serial !== '' && rowOfSerial.has(key)) wrong('serial', `Serial ${serial} is already on row ${String(rowOfSerial.get(key))}.`);
    if (cell('model').length > MOST_TEXT) wrong('model', `A model has at most ${String(MOST_TEXT)} characters.`);

    const media = readMedia(cell('media'));
    if (media === null) wrong('media', `"${cell('media').slice(0, 20)}" is not a kind of drive known here: hard disk, shingled, SSD or NVMe.`);

    const price = cell('price') === '' ? undefined : readPrice(cell('price'));
    if (price === null) wrong('price', `"${cell('price').slice(0, 20)}" is not a price. Write 249 or 249.90.`);

    const boughtOn = cell('bought') === '' ? undefined : readDay(cell('bought'));
    if (boughtOn === null) wrong('bought', `"${cell('bought').slice(0, 20)}" is not a day. Write 2026-01-31 or 31.1.2026.`);
    if (cell('lot').length > MOST_LOT) wrong('lot', `A lot has at most ${String(MOST_LOT)} characters.`);

    if (problems.length > before || isRefusal(size)) return;
    if (bay === '') wantsBay.push(drives.length);
    else rowOfBay.set(bay, number);
    if (serial !== '') rowOfSerial.set(key, number);
    drives.push({
      kind: 'listed-drive',
      row: number,
      bay,
      bytes: size.bytes,
      basis: size.basis,
      ...(size.label === undefined ? {} : { label: size.label }),
      ...(serial === '' ? {} : { serial }),
      ...(media === null || cell('media') === '' ? {} : { media }),
      ...(cell('model') === '' ? {} : { model: cell('model') }),
      ...(price === undefined || price === null ? {} : { priceCents: price }),
      ...(boughtOn === undefined || boughtOn === null ? {} : { boughtOn }),
      ...(cell('lot') === '' ? {} : { lot: cell('lot') }),
    });
  });

  let free = 1;
  for (const index of wantsBay) {
    while (rowOfBay.has(String(free))) free++;
    const drive = drives[index] as ListedDrive;
    rowOfBay.set(String(free), drive.row);
    drives[index] = { ...drive, bay: String(free) };
  }
  if (drives.length === 0 && problems.length === 0) return sheetProblem('There is a head row and no drive below it.', headAt + 1);
  return done(drives, problems);
}

function done(drives: ListedDrive[], problems: ListProblem[]): DriveList {
  drives.sort((a, b) => compareBays(a.bay, b.bay));
  return Object.freeze({ kind: 'drive-list', drives: Object.freeze(drives.map((drive) => Object.freeze(drive))), problems: Object.freeze(problems) });
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
