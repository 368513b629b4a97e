import { refusal, type Refusal } from '../value/refusal';

/** What a column of a list that a unit writes out may be. */
export const PAGE_COLUMNS = ['bay', 'enclosure', 'serial', 'size', 'status'] as const;
export type PageColumn = (typeof PAGE_COLUMNS)[number];

/** Which heading stands over what; the bay is always among them. */
export type PageColumns = Readonly<Partial<Record<PageColumn, string>>> & { readonly bay: string };

/** A list with a row of headings: rows as they stand in the text, so that a row is named by its line. */
export interface PageTable {
  readonly head: readonly string[];
  readonly headAt: number;
  readonly rows: readonly (readonly string[])[];
}

/** Names of headings that are plain (common practice); a unit that has its own is told once. */
const USUAL: Readonly<Record<PageColumn, RegExp>> = {
  bay: /^(bay|slot|tray|position|no\.?|#)\b|^(drive|disk) ?(no\.?|number|#)?$/i,
  enclosure: /^(enclosure|extension|box|chassis|shelf|expansion)\b/i,
  serial: /^(serial|s\/n)/i,
  size: /^(size|capacity)\b/i,
  status: /^(status|state|health|condition)\b/i,
};

/**
 * A list of cells with a row of headings above it: two headings at least, each another, none a number, and a row below that
 * reaches as far. `null` for any other text.
 *
 * @param rows the text cut into cells, line by line
 */
export function pageTable(rows: readonly (readonly string[])[]): PageTable | null {
  const headAt = rows.findIndex((row) => row.some((cell) => cell.trim() !== ''));
  const head = (rows[headAt] ?? []).map((cell) => cell.trim());
  const named = head.filter((cell) => cell !== '');
  const isHead =
    named.length >= 2 &&
    new Set(named.map((cell) => cell.toLowerCase())).size === named.length &&
    named.every((cell) => cell.length <= 60 && /\p{L}|#/u.test(cell) && !/^\d/.test(cell));
  return isHead && rows.slice(headAt + 1).some((row) => row.length >= named.length) ? { head, headAt, rows } : null;
}

/** What the headings say by themselves; without a bay it is for a person to say. */
export function usualColumns({ head }: Pick<PageTable, 'head'>): Partial<PageColumns> {
  return Object.fromEntries(
    PAGE_COLUMNS.flatMap((column) => {
      const found = head.find((name) => USUAL[column].test(name));
      return found === undefined ? [] : [[column, found]];
    }),
  );
}

/** True where every heading that is asked for stands over the list. */
export function hasColumns({ head }: Pick<PageTable, 'head'>, columns: PageColumns): boolean {
  return PAGE_COLUMNS.every((column) => columns[column] === undefined || head.includes(columns[column]));
}

/**
 * The list as a page with headings of its own words, line for line, for `readPage` to read: what stands in other columns is
 * left out.
 *
 * @returns refused (`column-missing`) with the heading that is not there
 */
export function asPage({ head, headAt, rows }: PageTable, columns: PageColumns): string | Refusal {
  const asked = PAGE_COLUMNS.filter((column) => columns[column] !== undefined);
  const missing = asked.find((column) => !head.includes(columns[column] ?? ''));
  if (missing !== undefined)
    return refusal(
      'column-missing',
      `No column is headed “${columns[missing] ?? ''}”: there are ${head.filter((name) => name !== '').join(', ')}.`,
      `/columns/${missing}`,
    );
  const places = asked.map((column) => head.indexOf(columns[column] ?? ''));
  return rows
    .map((row, i) => {
      if (i < headAt) return '';
      if (i === headAt) return asked.join('\t');
      const cells = places.map((at) => (row[at] ?? '').replace(/\s+/g, ' ').trim());
      return cells.some((cell) => cell !== '') ? cells.join('\t') : '';
    })
    .join('\n');
}
