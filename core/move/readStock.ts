import { STOCK_KINDS, type StockKind, type StockLine } from './stock';

const MOST_NAME = 120;
const MOST_DETAIL = 200;

/**
 * A stock as somebody typed it, a line each: "share: Accounts, 12 people"; or a sheet with what, name and detail. A line
 * whose kind nobody knows is kept whole, as something else.
 *
 * @param rowsOf reads a sheet (RFC 4180)
 */
export function readStock(text: string, rowsOf: (sheet: string) => readonly (readonly string[])[]): StockLine[] {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const head = (rowsOf(lines[0] ?? '')[0] ?? []).map((cell) => cell.trim().toLowerCase());
  const [what, name] = [head.indexOf('what'), head.indexOf('name')];
  if (what >= 0 && name >= 0) {
    const detail = head.findIndex((cell) => cell === 'detail' || cell === 'note');
    return rowsOf(text)
      .slice(1)
      .flatMap((row) => lineOf(row[what] ?? '', row[name] ?? '', detail < 0 ? '' : (row[detail] ?? '')));
  }
  return lines.flatMap((line) => {
    const colon = line.indexOf(':');
    const kind = colon < 0 ? undefined : kindOf(line.slice(0, colon));
    const rest = kind === undefined ? line : line.slice(colon + 1);
    const comma = rest.indexOf(',');
    return lineOf(kind ?? 'other', comma < 0 ? rest : rest.slice(0, comma), comma < 0 ? '' : rest.slice(comma + 1));
  });
}

function lineOf(what: string, name: string, detail: string): StockLine[] {
  const [plain, more] = [name.trim().slice(0, MOST_NAME), detail.trim().slice(0, MOST_DETAIL)];
  if (plain === '') return [];
  return [{ what: kindOf(what) ?? 'other', name: plain, ...(more === '' ? {} : { detail: more }) }];
}

/** "Shares", "users" and "Block volume" are what they say. */
function kindOf(words: string): StockKind | undefined {
  const plain = words.trim().toLowerCase();
  return STOCK_KINDS.find((kind) => plain === kind || plain === `${kind}s`);
}
