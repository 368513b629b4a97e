import papaparse from 'papaparse';

/**
 * A sheet as RFC 4180 writes it. Cells that a spreadsheet would take for a formula are set off by an apostrophe, so
 * that a serial somebody made up cannot run anything on the machine where the sheet is opened.
 */
export function toCsv(head: readonly string[], rows: readonly (readonly (string | number | null)[])[]): string {
  return `${papaparse.unparse({ fields: [...head], data: rows.map(cells) }, { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}

/** More rows of a sheet whose head has gone out already. */
export function csvLines(rows: readonly (readonly (string | number | null)[])[]): string {
  return `${papaparse.unparse(rows.map(cells), { escapeFormulae: true, newline: '\r\n' })}\r\n`;
}

/** A cell that begins with a line feed is read from the next line on by some: what stands there is set off too. */
function cells(row: readonly (string | number | null)[]): (string | number | null)[] {
  return row.map((cell) => (typeof cell === 'string' && cell.startsWith('\n') ? `'${cell}` : cell));
}
