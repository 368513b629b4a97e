import { serialKey } from '../drive/serial';
import { driveInBay, type UnitState } from '../unit/state';
import { compareObservation, type Contradiction } from './compareObservation';
import type { Observation } from './observation';
import { readPage } from './readPage';

/** A mail a unit wrote, or that is about one. */
export interface Letter {
  readonly sender: string;
  readonly recipients: readonly string[];
  readonly subject: string;
  readonly words: string;
}

/** As much of it is read: no warning is longer. */
const MOST_CHARACTERS = 20_000;

/**
 * Which unit a mail is from, or about: the one whose name stands behind a plus in an address it went to
 * (shelf+heron@…), else the one whose drives it names, else the one it names. `undefined` where that is none or several.
 */
export function unitMeant<
  U extends { readonly id: string; readonly name: string; readonly serials: readonly string[] },
>({ sender, recipients, subject, words }: Letter, units: readonly U[]): U | undefined {
  const tags = new Set(recipients.flatMap((address) => /\+([^@+]+)@/.exec(address)?.[1]?.toLowerCase() ?? []));
  const tagged = units.filter(({ name }) => tags.has(slugOf(name)));
  if (tagged.length > 0) return onlyOne(tagged);
  const text = `${subject}\n${sender}\n${words.slice(0, MOST_CHARACTERS)}`;
  const printed = new Set((text.match(/[A-Za-z0-9][A-Za-z0-9-]{3,63}/g) ?? []).map((word) => serialKey(word)));
  const byDrive = units.filter(({ serials }) => serials.some((serial) => printed.has(serialKey(serial))));
  if (byDrive.length > 0) return onlyOne(byDrive);
  const lower = text.toLowerCase();
  return onlyOne(units.filter(({ name }) => isNamed(lower, name.toLowerCase())));
}

function onlyOne<U>(units: readonly U[]): U | undefined {
  return units.length === 1 ? units[0] : undefined;
}

/** A unit's name as it stands in an address. */
export function slugOf(name: string): string {
  return name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
}

/** As a word of its own. */
function isNamed(text: string, name: string): boolean {
  const isLetter = (of: string | undefined): boolean => of !== undefined && /[\p{L}\p{N}]/u.test(of);
  for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1))
    if (!isLetter(text[at - 1]) && !isLetter(text[at + name.length])) return true;
  return false;
}

/**
 * What a mail says of its unit: sentence by sentence as a page is read line by line. It is the word of whoever can write a
 * mail, and records nothing by itself.
 */
export function readLetter({ subject, words }: Letter, unit: UnitState): Observation {
  const lines = [subject, ...sentencesOf(words.slice(0, MOST_CHARACTERS))];
  return Object.freeze({ ...readPage(lines.join('\n'), unit), by: 'mail' });
}

/** What is taken on the word of a mail, where a person takes it: what went wrong, and how far work is. */
const TAKEN: ReadonlySet<Contradiction['code']> = new Set([
  'failed',
  'sick',
  'unknown-word',
  'part-lost',
  'pool-stopped',
  'pool-degraded',
  'work-begun',
  'progress',
]);

/**
 * Where a mail and the record say different things, each once; and that a test mail has arrived. A mail is as old as it is:
 * of a drive that came into its bay later it says nothing, and that something is well again nobody takes from it.
 *
 * @param writtenAt when it was written, ISO; the moment it came where it does not say
 */
export function letterAgainst(unit: UnitState, letter: Letter, writtenAt: string): Contradiction[] {
  const found = compareObservation(unit, readLetter(letter, unit));
  const said = new Set<string>();
  const once = found
    .map((one) => asOld(unit, one, writtenAt))
    .filter(({ sentence }) => !said.has(sentence) && said.add(sentence));
  return isTest(letter) && once.length === 0 ? testArrived(unit) : once;
}

/** A mail says when it was written to the second (RFC 5322), by the clock of the unit. */
const SECOND = 1000;
/** A unit's clock may be that far behind. */
const CLOCK_MS = 3_600_000;

function asOld(unit: UnitState, one: Contradiction, writtenAt: string): Contradiction {
  const drive = one.bay === '' ? undefined : driveInBay(unit, one.bay);
  if (drive?.insertedAt !== undefined && Date.parse(drive.insertedAt) >= Date.parse(writtenAt) + SECOND)
    return lookFirst(one, `It was written before ${drive.serial} was put in there.`);
  const job = one.events.flatMap((event) => ('job' in event ? (unit.jobs[event.job] ?? []) : []))[0];
  if (job && job.heardAt > writtenAt) return lookFirst(one, 'More was heard of it since.');
  return TAKEN.has(one.code) ? one : lookFirst(one);
}

/** Nothing is recorded on its word: it is for a person to look. */
function lookFirst(one: Contradiction, why = ''): Contradiction {
  return Object.freeze({ ...one, events: [], sentence: why === '' ? one.sentence : `${one.sentence} ${why}` });
}

/** It tells of bays or of work, and all it tells is on record. */
export function saysNoNews(unit: UnitState, letter: Letter, writtenAt: string): boolean {
  const { bays, percent, poolWords = [] } = readLetter(letter, unit);
  const isRead =
    poolWords.length > 0 || bays.some(({ state, percent: share }) => state !== undefined || share !== undefined);
  return (isRead || percent !== undefined) && letterAgainst(unit, letter, writtenAt).length === 0;
}

/** Words of a failure where nothing else was understood: better one message too many at night. */
const FAILURE = /\b(fail(ed|ure|s)?|degraded|crash(ed)?|lost|critical|missing|offline|dead)\b/i;

/**
 * It tells of something that may have lowered a margin: a drive or a box that is gone, or words of a failure in its
 * subject. Of a drive that was just put in it may speak though its clock says otherwise: better heard once too often.
 */
export function isOfFailure(unit: UnitState, letter: Letter, writtenAt: string): boolean {
  const found = letterAgainst(unit, letter, new Date(Date.parse(writtenAt) + CLOCK_MS).toISOString());
  if (found.some(({ code, events }) => events.length > 0 && LOWERS.has(code))) return true;
  return !isTest(letter) && found.length === 0 && FAILURE.test(letter.subject);
}

function isTest({ subject, words }: Letter): boolean {
  return /\btest\b/i.test(subject) || /\btest (mail|e-?mail|message|notification|alarm|alert)\b/i.test(words);
}

function testArrived(unit: UnitState): Contradiction[] {
  const task = Object.values(unit.upkeep).find(({ id }) => id === 'alarm-mail');
  return [
    Object.freeze({
      kind: 'contradiction',
      bay: '',
      code: 'test-arrived',
      sentence: `A test of ${unit.name}’s alarm mail: it arrives here.`,
      events: task
        ? ([{ kind: 'upkeep-done', task: task.id, note: 'its test mail arrived' }] as const)
        : ([{ kind: 'check-confirmed', check: 'alarm-mail-tested', note: 'its test mail arrived' }] as const),
    }),
  ];
}

/** What a mail can say that lowers a margin, or may have. */
const LOWERS: ReadonlySet<Contradiction['code']> = new Set(['failed', 'part-lost', 'pool-stopped', 'pool-degraded']);

/** Lines that are wrapped are one; a table's lines stay lines; a sentence is a line. */
function sentencesOf(words: string): string[] {
  const out: string[] = [];
  let open = '';
  const close = (): void => {
    if (open !== '') out.push(...open.split(/(?<=[.!?;])\s+/));
    open = '';
  };
  for (const raw of words.split(/\r?\n/)) {
    const line = raw.trim();
    // A quote of an older mail says nothing new.
    if (line === '' || line.startsWith('>')) close();
    else if (/\t|\s{2,}|[|,;].*[|,;]|^[-*•]|:$/.test(line)) {
      close();
      out.push(line);
    } else if (open !== '' && /^[a-z(]/.test(line)) open += ` ${line}`;
    else {
      close();
      open = line;
    }
  }
  close();
  return out;
}
