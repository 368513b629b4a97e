import papaparse from 'papaparse';

/** What a spreadsheet would take a cell for a formula by, on whatever line of it; a line feed before it hides it from no one. */
const FORMULA = /^[=+\-@\t\r\n]/;
const CONFIG = { newline: '\r\n' } as const;

type Cell = string | number | null;

/**
 * A sheet as RFC 4180 writes it. Cells that a spreadsheet would take for a formula are set off by an apostrophe, so
 * that a serial somebody made up cannot run anything on the machine where the sheet is opened.
 */
export function toCsv(head: readonly string[], rows: readonly (readonly Cell[])[]): string {
  return csvLines([head, ...rows]);
}

/** More rows of a sheet whose head has gone out already; none are no line. */
export function csvLines(rows: readonly (readonly Cell[])[]): string {
  return rows.length === 0 ? '' : `${papaparse.unparse(rows.map(cells), CONFIG)}\r\n`;
}

/** A text is set off as a whole, however many lines it has. */
function cells(row: readonly Cell[]): Cell[] {
  return row.map((cell) => (typeof cell === 'string' && FORMULA.test(cell) ? `'${cell}` : cell));
}
