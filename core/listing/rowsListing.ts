import { MOST_PROBLEMS, plainPath, type ListedFile, type Listing } from './listing';

type Column = 'path' | 'folder' | 'name' | 'size' | 'time' | 'sum';
const NAMES: Readonly<Record<Column, readonly string[]>> = {
  path: ['path', 'fullname', 'file', 'filepath', 'fullpath'],
  folder: ['folder', 'directory', 'directoryname', 'dir'],
  name: ['name', 'filename'],
  size: ['size', 'length', 'bytes', 'filesize'],
  time: ['time', 'modified', 'lastwritetime', 'mtime', 'changed', 'date'],
  sum: ['sum', 'checksum', 'hash', 'sha256', 'sha1', 'md5', 'sha512'],
};

/** True where the first row names a column with paths: then it is a sheet. */
export function isListingHead(row: readonly string[]): boolean {
  const columns = columnsOf(row);
  return columns.has('path') || (columns.has('folder') && columns.has('name'));
}

/**
 * A list of files from the rows of a sheet with a head: a path (or folder and name), and any of size, time and checksum.
 *
 * @param rows the head first
 */
export function listingOfRows(rows: readonly (readonly string[])[]): Listing {
  const columns = columnsOf(rows[0] ?? []);
  const files: ListedFile[] = [];
  const problems: Listing['problems'][number][] = [];
  let problemCount = 0;
  for (const [i, row] of rows.entries()) {
    if (i === 0) continue;
    const cell = (column: Column): string => (row[columns.get(column) ?? -1] ?? '').trim();
    if (row.every((one) => one.trim() === '')) continue;
    const path = plainPath(cell('path') !== '' ? cell('path') : `${cell('folder')}/${cell('name')}`);
    const size = cell('size').replaceAll(/[\s,_]/g, '');
    const time = cell('time') === '' ? NaN : Date.parse(cell('time'));
    const reason =
      path === '' || path === '/'
        ? 'no path'
        : size !== '' && !/^\d+$/.test(size)
          ? `“${cell('size')}” is no size in bytes`
          : undefined;
    if (reason !== undefined) {
      problemCount++;
      if (problems.length < MOST_PROBLEMS) problems.push({ line: i + 1, reason });
      continue;
    }
    const sum = cell('sum').toLowerCase();
    files.push({
      path,
      ...(size === '' ? {} : { size: Number(size) }),
      ...(Number.isNaN(time) ? {} : { time }),
      ...(sum === '' ? {} : { sum }),
    });
  }
  return { kind: 'listing', files, problems, problemCount };
}

function columnsOf(row: readonly string[]): Map<Column, number> {
  const columns = new Map<Column, number>();
  for (const [i, cell] of row.entries()) {
    const plain = cell.toLowerCase().replaceAll(/[^a-z0-9]/g, '');
    const named = (Object.keys(NAMES) as Column[]).find((column) => NAMES[column].includes(plain));
    if (named && !columns.has(named)) columns.set(named, i);
  }
  return columns;
}
