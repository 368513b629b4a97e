import { readSize } from '../drive/readSize';
import { isRefusal } from '../value/refusal';

/** A bay as a unit's own page shows it. What it does not say is left out. */
export interface ReportedBay {
  readonly kind: 'reported-bay';
  /** The line it came from, counted from 1. */
  readonly line: number;
  readonly bay: string;
  readonly serial?: string;
  readonly bytes?: number;
  readonly state?: 'well' | 'sick' | 'failed' | 'rebuilding' | 'empty';
  readonly percent?: number;
}

export interface Report {
  readonly kind: 'report';
  readonly bays: readonly ReportedBay[];
  /** Work the page reports without naming a bay, as a percentage. */
  readonly percent?: number;
  /** Lines that say something and could not be read. */
  readonly unread: readonly { readonly line: number; readonly text: string }[];
}

const STATES: readonly (readonly [RegExp, NonNullable<ReportedBay['state']>])[] = [
  [/\b(rebuild\w*|resync\w*|recover\w*|repairing)\b/i, 'rebuilding'],
  [/\b(failed|fail|faulty|dead|offline|error|crashed|missing|removed|degraded)\b/i, 'failed'],
  [/\b(warning|predict\w*|sick|caution|bad|reallocat\w*|pending)\b/i, 'sick'],
  [/\b(empty|no drive|no disk|not installed|absent)\b/i, 'empty'],
  [/\b(normal|healthy|good|ok|online|optimal|active|well|ready|passed)\b/i, 'well'],
];

/**
 * Reads what a unit's page reports, pasted as free text or as CSV: a line a bay, in any order of its parts. A bay is the
 * number behind "bay", "slot", "drive" or "disk", or the first cell; a serial is the cell that looks like one.
 *
 * @param knownBays the unit's bays; a line that names none of them is kept as unread
 * @param knownSerials serials of the record, which are recognised whatever they look like
 */
export function readReport(text: string, knownBays: readonly string[], knownSerials: readonly string[] = []): Report {
  const bays: ReportedBay[] = [];
  const unread: { line: number; text: string }[] = [];
  let percent: number | undefined;
  let head: string[] = [];
  for (const [index, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim();
    if (line === '') continue;
    const cells = line.split(/[\t;,|]|\s{2,}/).map((cell) => cell.trim());
    if (head.length === 0 && /\b(bay|slot|drive|disk|tray)\b/i.test(line) && /\b(serial|status|state|health|size|capacity)\b/i.test(line) && !/\d/.test(line)) {
      head = cells.map((cell) => cell.toLowerCase());
      continue;
    }
    const bay = bayOf(line, cells, head, knownBays);
    const share = /(\d{1,3}(?:[.,]\d{1,2})?) ?%/.exec(line)?.[1];
    const done = share === undefined ? undefined : Number(share.replace(',', '.'));
    if (bay === undefined) {
      if (done !== undefined && done <= 100 && /rebuild|resync|repair|build|progress|check|scrub|expand/i.test(line)) percent = done;
      else unread.push({ line: index + 1, text: line.slice(0, 120) });
      continue;
    }
    const serial = serialOf(line, cells, head, knownSerials);
    const bytes = sizeOf(serial === undefined ? line : line.replace(serial, ' '), cells);
    const state = STATES.find(([pattern]) => pattern.test(serial === undefined ? line : line.replace(serial, ' ')))?.[1];
    bays.push({
      kind: 'reported-bay',
      line: index + 1,
      bay,
      ...(serial === undefined ? {} : { serial }),
      ...(bytes === undefined ? {} : { bytes }),
      ...(state === undefined ? {} : { state }),
      ...(done === undefined || done > 100 ? {} : { percent: done }),
    });
  }
  return Object.freeze({ kind: 'report', bays, unread, ...(percent === undefined ? {} : { percent }) });
}

function bayOf(line: string, cells: readonly string[], head: readonly string[], known: readonly string[]): string | undefined {
  const named = /\b(?:bay|slot|tray|drive|disk)\s*#?\s*([\w.:-]{1,16})\b/i.exec(line)?.[1];
  const column = head.findIndex((name) => /^(bay|slot|tray|drive|disk|no\.?|#)/.test(name));
  const wanted = [column >= 0 ? cells[column] : undefined, named, cells[0]?.replace(/[.:)]$/, '')];
  for (const one of wanted) {
    const found = known.find((bay) => bay.toLowerCase() === one?.toLowerCase());
    if (found !== undefined) return found;
  }
  return undefined;
}

/** A serial has letters and digits, or is one the record knows; sizes, percentages and words are not. */
function serialOf(line: string, cells: readonly string[], head: readonly string[], known: readonly string[]): string | undefined {
  const whole = known.find((serial) => line.toUpperCase().includes(serial.toUpperCase()));
  if (whole !== undefined) return whole;
  const column = head.findIndex((name) => name.startsWith('serial') || name === 's/n');
  if (column >= 0 && cells[column]) return cells[column];
  const words = line.split(/[\s;,|\t]+/);
  return words.find((word) => /^[A-Z0-9][A-Z0-9-]{5,39}$/i.test(word) && /\d/.test(word) && /[A-Z]/i.test(word) && !/^\d+([.,]\d+)?[kmgtp]i?b$/i.test(word));
}

/** A cell that is a size and nothing else comes first: in "2,8 TB" of a row the comma may stand between two cells. */
function sizeOf(line: string, cells: readonly string[]): number | undefined {
  const written = cells.find((cell) => /^\d[\d.,]* ?[gtp]i?b$/i.test(cell)) ?? /(\d[\d.,]*) ?([gtp]i?b)\b/i.exec(line)?.[0];
  if (written === undefined) return undefined;
  const size = readSize(written);
  return isRefusal(size) ? undefined : size.bytes;
}
