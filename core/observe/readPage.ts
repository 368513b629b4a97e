import { isSameName } from '../value/sameName';
import { baysMeant, enclosuresMeant } from '../unit/bayName';
import { cacheSlots, type UnitState } from '../unit/state';
import { serialKey } from '../drive/serial';
import type { DriveSize } from '../drive/readSize';
import { sizeOnPage } from '../drive/sizeOnPage';
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { readPoolLine } from './readPoolLine';
import type { Observation, ObservedBay, ObservedCount, ObservedPoolWord } from './observation';

const STATES: readonly (readonly [RegExp, NonNullable<ObservedBay['state']>])[] = [
  [/\b(rebuild\w*|resync\w*|recover\w*|repairing)\b/i, 'rebuilding'],
  // What is only expected to fail works still: a sign, and no failure.
  [
    /\b(failing|critical|predict\w*|imminent|at risk|(?:expect\w*|about|going|likely) to fail|expects? failure)\b/i,
    'sick',
  ],
  [/\b(failed|fail|faulty|dead|offline|error|crashed|missing|removed|degraded)\b/i, 'failed'],
  [/\b(warning|predict\w*|sick|caution|bad|reallocat\w*|pending)\b/i, 'sick'],
  [/\b(empty|no drive|no disk|not installed|absent)\b/i, 'empty'],
  [/\b(normal|healthy|good|ok|online|optimal|active|well|ready|passed)\b/i, 'well'],
];

/**
 * Reads what a unit's page reports, pasted as free text or as CSV: a line a bay, in any order of its parts. A bay is the
 * number behind "bay", "slot", "drive" or "disk", or the first cell; a serial is the cell that looks like one.
 *
 * A page that counts each box from 1 says which one: in the line, in a column, or in a heading above its lines.
 *
 * @param unit its boxes, and what its page counts in; a line that names none of their bays, or one of several, is kept as unread
 */
export function readPage(
  text: string,
  unit: Pick<UnitState, 'enclosures' | 'drives'> &
    Partial<Pick<UnitState, 'pools'>> & {
      readonly profile?: Pick<Profile, 'unitPage'> & Partial<Pick<Profile, 'bays'>>;
    },
): Observation {
  const knownSerials = Object.keys(unit.drives);
  const isCountedThrough = countsThrough(unit, text);
  const bays: ObservedBay[] = [];
  const unread: { line: number; text: string }[] = [];
  const counts: ObservedCount[] = [];
  const poolWords: ObservedPoolWord[] = [];
  let percent: number | undefined;
  let head: string[] = [];
  let box = '';
  for (const [index, raw] of text.split(/\r?\n/, MOST_LINES).entries()) {
    const line = raw.trim();
    if (line === '') continue;
    if (line.length > LONGEST_LINE) {
      unread.push({ line: index + 1, text: line.slice(0, 120) });
      continue;
    }
    const cells = line.split(/[\t;,|]|\s{2,}/).map((cell) => cell.trim());
    if (
      head.length === 0 &&
      /\b(bay|slot|drive|disk|tray)\b/i.test(line) &&
      /\b(serial|status|state|health|size|capacity)\b/i.test(line) &&
      !/\d/.test(line)
    ) {
      head = cells.map((cell) => cell.toLowerCase());
      continue;
    }
    const ofPool = readPoolLine(unit, line);
    if (ofPool) {
      poolWords.push({ line: index + 1, ...ofPool });
      // How far its work is may stand beside it.
      const part = /(\d{1,3}(?:[.,]\d{1,2})?) ?%/.exec(line)?.[1];
      if (part !== undefined && /rebuild|resync|repair|build|progress|check|scrub|expand/i.test(line))
        percent = Number(part.replace(',', '.'));
      continue;
    }
    const count = countOf(unit, line, box);
    if (count) {
      counts.push({ line: index + 1, ...count });
      if (enclosuresMeant(unit, line).length === 1) box = line;
      continue;
    }
    if (isHeading(unit, line)) {
      box = line;
      continue;
    }
    const serial = serialOf(line, cells, head, knownSerials);
    const standing = serial === undefined ? undefined : unit.drives[serialKey(serial)]?.bay;
    const bay = bayOf({ unit, isCountedThrough, standing: standing ?? undefined }, line, cells, head, box);
    const share = /(\d{1,3}(?:[.,]\d{1,2})?) ?%/.exec(line)?.[1];
    const done = share === undefined ? undefined : Number(share.replace(',', '.'));
    if (bay === undefined) {
      if (done !== undefined && done <= 100 && /rebuild|resync|repair|build|progress|check|scrub|expand/i.test(line))
        percent = done;
      else unread.push({ line: index + 1, text: line.slice(0, 120) });
      continue;
    }
    const size = sizeOf(serial === undefined ? line : line.replace(serial, ' '), cells, unit.profile);
    const state = STATES.find(([pattern]) =>
      pattern.test(serial === undefined ? line : line.replace(serial, ' ')),
    )?.[1];
    const unknown = state === undefined ? unknownWords(cells, head, serial) : undefined;
    bays.push({
      kind: 'observed-bay',
      line: index + 1,
      bay,
      ...(serial === undefined ? {} : { serial }),
      ...(size === undefined ? {} : { size }),
      ...(state === undefined ? {} : { state }),
      ...(done === undefined || done > 100 ? {} : { percent: done }),
      ...(unknown === undefined ? {} : { unknown }),
    });
  }
  return Object.freeze({
    kind: 'observation',
    by: 'page',
    bays,
    counts,
    unread,
    ...(percent === undefined ? {} : { percent }),
    ...(poolWords.length === 0 ? {} : { poolWords }),
  });
}

/** "Extension 2: 16 drives", "15 of 16 disks present": a count and no bay. */
function countOf(
  unit: Pick<UnitState, 'enclosures'>,
  line: string,
  box: string,
): Omit<ObservedCount, 'line'> | undefined {
  if (line.length > 80) return undefined;
  const seen =
    /\b(\d{1,4})(?: ?(?:of|\/) ?\d{1,4})? ?(?:drives|disks)\b/i.exec(line)?.[1] ??
    /\b(?:drives|disks)(?: seen| present| found)? ?:? (\d{1,4})\b/i.exec(line)?.[1];
  if (seen === undefined) return undefined;
  const [named = enclosuresMeant(unit, box)[0]] = enclosuresMeant(unit, line);
  return { seen: Number(seen), ...(named ? { enclosure: named.name } : {}) };
}

/** Words of a page that are no health: what a drive is, and how it is connected. */
const NOT_HEALTH =
  /^(hdd|ssd|nvme|sata|sas|disk|drive|hard disk|bay|slot|tray|type|member|data|parity|spare|hot spare|pool|volume|yes|no|none|n\/a|-+|[a-z]{1,2})$/i;

/** What stands where the health of a drive would stand, and is none of the words known here. */
function unknownWords(
  cells: readonly string[],
  head: readonly string[],
  serial: string | undefined,
): string | undefined {
  const column = head.findIndex((name) => /^(status|state|health|condition)/.test(name));
  if (column >= 0)
    return cells[column] === undefined || cells[column] === '' || NOT_HEALTH.test(cells[column])
      ? undefined
      : cells[column].slice(0, 60);
  const last = cells.length > 1 ? cells.at(-1) : undefined;
  return last === undefined || last === serial || !/^[a-z][a-z !-]{2,40}$/i.test(last) || NOT_HEALTH.test(last)
    ? undefined
    : last;
}

/** No page shows a longer one; what reads it looks at every character more than once. */
const LONGEST_LINE = 500;
/** A page of a thousand bays has no more. */
const MOST_LINES = 5000;

/** A line that only names a box: what follows is in it. */
function isHeading(unit: Pick<UnitState, 'enclosures'>, line: string): boolean {
  return (
    enclosuresMeant(unit, line).length === 1 &&
    baysMeant(unit, line).length === 0 &&
    !/\d[\d.,]* ?[gtp]i?b\b|%/i.test(line) &&
    line.length <= 60
  );
}

/** As much of a line as a bay is told by. */
const BEGINNING = 60;

/** True for a page that numbers the bays of all boxes through: it goes beyond what any box has, and names no box. */
function countsThrough({ enclosures }: Pick<UnitState, 'enclosures'>, text: string): boolean {
  const most = Math.max(...enclosures.map(({ bays }) => bays.length));
  const numbers = text.split('\n').flatMap((line) => {
    const number = /^\W*(?:(?:bay|slot|tray|drive|disk)\s*#?\s*)?(\d{1,4})\b/i.exec(line.slice(0, BEGINNING))?.[1];
    return number === undefined ? [] : [Number(number)];
  });
  return (
    enclosures.length > 1 &&
    enclosuresMeant({ enclosures }, text).length === 0 &&
    numbers.some((number) => number > most)
  );
}

interface Reading {
  readonly unit: Pick<UnitState, 'enclosures'> & { readonly profile?: Partial<Pick<Profile, 'bays'>> };
  readonly isCountedThrough: boolean;
  /** The bay in which the record has the drive of this line. */
  readonly standing: string | undefined;
}

function bayOf(
  { unit, isCountedThrough, standing }: Reading,
  line: string,
  cells: readonly string[],
  head: readonly string[],
  box: string,
): string | undefined {
  const column = head.findIndex((name) => /^(bay|slot|tray|drive|disk|no\.?|#)/.test(name));
  const boxColumn = head.findIndex((name) => /^(enclosure|extension|box|chassis|shelf|expansion)/.test(name));
  const inCell = boxColumn >= 0 ? (cells[boxColumn] ?? '') : '';
  const where =
    enclosuresMeant(unit, line).length > 0 ? line : /^\d+$/.test(inCell) ? `enclosure ${inCell}` : inCell || box;
  const named = /\b(?:bay|slot|tray|drive|disk)\s*#?\s*([\w.:-]{1,16})\b/i.exec(line)?.[1];
  const all = unit.enclosures.flatMap(({ bays }) => bays);
  const slots = cacheSlots(unit.profile?.bays);
  const [slot] = baysMeant(unit, line).filter((one) => /^M\d$/.test(one));
  if (slot !== undefined) return slots.find((one) => one === slot);
  for (const number of [column >= 0 ? cells[column] : undefined, named, cells[0]?.replace(/[.:)]$/, '')]) {
    if (number === undefined || number === '') continue;
    // A slot for cache stands in no box's list of bays; one the family does not have is none.
    if (/^m\d$/i.test(number)) return slots.find((slot) => slot === number.toUpperCase());
    const through = all.filter((bay) => isSameName(bay, number));
    const found = isCountedThrough ? through : baysMeant(unit, `bay ${number} of ${where}`);
    if (found.length === 1) return found[0];
    // Every box has such a tray: the drive itself says which, where the record knows it.
    if (standing !== undefined && found.includes(standing)) return standing;
  }
  return baysMeant(unit, line).length === 1 ? baysMeant(unit, line)[0] : undefined;
}

/** A serial has letters and digits, or is one the record knows; sizes, percentages and words are not. */
function serialOf(
  line: string,
  cells: readonly string[],
  head: readonly string[],
  known: readonly string[],
): string | undefined {
  const whole = known.find((serial) => line.toUpperCase().includes(serial.toUpperCase()));
  if (whole !== undefined) return whole;
  const column = head.findIndex((name) => name.startsWith('serial') || name === 's/n');
  if (column >= 0 && cells[column]) return cells[column];
  const words = line.split(/[\s;,|\t]+/);
  return words.find(
    (word) =>
      /^[A-Z0-9][A-Z0-9-]{5,39}$/i.test(word) &&
      /\d/.test(word) &&
      /[A-Z]/i.test(word) &&
      !/^\d+([.,]\d+)?[kmgtp]i?b$/i.test(word),
  );
}

/** A cell that is a size and nothing else comes first: in "2,8 TB" of a row the comma may stand between two cells. */
function sizeOf(line: string, cells: readonly string[], profile?: Pick<Profile, 'unitPage'>): DriveSize | undefined {
  const written =
    cells.find((cell) => /^\d[\d.,]* ?[gtp]i?b$/i.test(cell)) ?? /(\d[\d.,]*) ?([gtp]i?b)\b/i.exec(line)?.[0];
  if (written === undefined) return undefined;
  const size = sizeOnPage(written, profile?.unitPage);
  return isRefusal(size) ? undefined : size;
}
