import { stockLinesSchema } from '../../schemas/stock';
import { isSameName } from '../value/sameName';
import { refusal, type Refusal } from '../value/refusal';

/** What a unit does for people, that no drive shows: written down before it is moved, and compared afterwards. */
export const STOCK_KINDS = stockLinesSchema.items.properties.what.enum;
export type StockKind = (typeof STOCK_KINDS)[number];

export interface StockLine {
  readonly what: StockKind;
  readonly name: string;
  /** Who may use it, when it runs, how full it is. */
  readonly detail?: string;
}

/** One line that is not as it was. */
export interface StockDifference {
  readonly kind: 'missing' | 'changed' | 'extra';
  readonly line: StockLine;
  /** How it was before, where it has changed. */
  readonly before?: StockLine;
}

function isSameLine(a: StockLine, b: StockLine): boolean {
  return a.what === b.what && isSameName(a.name, b.name);
}

/** The line that stands in a stock twice: a list that cannot be compared. */
export function whyNotStock(lines: readonly StockLine[]): Refusal | undefined {
  const twice = lines.findIndex((line, i) => lines.slice(0, i).some((other) => isSameLine(line, other)));
  const line = lines[twice];
  return line
    ? refusal(
        'stock-twice',
        `“${stockWords(line)}” is in the list twice: give each a name of its own, or strike one out.`,
        `/evidence/lines/${String(twice)}/name`,
      )
    : undefined;
}

/** What is not as it was, line by line: what is missing and changed first. Capitals and spaces count for nothing. */
export function stockDifferences(before: readonly StockLine[], after: readonly StockLine[]): StockDifference[] {
  const gone = before.flatMap((line): StockDifference[] => {
    const now = after.find((one) => isSameLine(line, one));
    if (!now) return [{ kind: 'missing', line }];
    return isSameName(now.detail ?? '', line.detail ?? '') ? [] : [{ kind: 'changed', line: now, before: line }];
  });
  const extra = after
    .filter((line) => !before.some((one) => isSameLine(line, one)))
    .map((line): StockDifference => ({ kind: 'extra', line }));
  return [...gone, ...extra];
}

/** What goes by its name where people look for it: of these there is one of a name on a unit. A person may be known on two. */
const NAMED: ReadonlySet<StockKind> = new Set(['share', 'block volume', 'schedule', 'service', 'machine']);

/** Lines of one unit under a name that another one it joins has given already. */
export function namesTaken(lines: readonly StockLine[], there: readonly StockLine[]): StockLine[] {
  return lines.filter((line) => NAMED.has(line.what) && there.some((one) => isSameLine(line, one)));
}

/** What a unit does for people once another has joined it: its own lines, and those of the other it has not. */
export function stockJoined(own: readonly StockLine[], joining: readonly StockLine[]): StockLine[] {
  return [...own, ...joining.filter((line) => !own.some((one) => isSameLine(line, one)))];
}

/** "share Accounts, 12 people". */
export function stockWords({ what, name, detail }: StockLine): string {
  return `${what} ${name}${detail === undefined || detail === '' ? '' : `, ${detail}`}`;
}

/** A difference as a part of a sentence. */
export function differenceWords({ kind, line, before }: StockDifference): string {
  if (kind === 'missing') return `${stockWords(line)}: missing`;
  return kind === 'extra'
    ? `${stockWords(line)}: was not there`
    : `${stockWords(line)}: was ${before?.detail ?? 'without a word'}`;
}
