import { isSameSerial, serialKey } from '../drive/serial';
import { whichSerial } from '../drive/whichSerial';
import { whereWords } from '../driveLife/driveEventWords';
import type { DriveLife } from '../driveLife/life';
import { attempt } from '../plan/engine/attempt';
import { aloneAt } from '../plan/engine/aloneAt';
import { fitting } from '../plan/engine/fitting';
import { driveFacts, type DriveFacts } from '../plan/engine/driveFacts';
import { knownDrive, type KnownDrive } from '../plan/engine/knownDrive';
import { bayName, bayShort } from '../unit/bayName';
import { otherUnitWords, type StandsThere } from '../unit/standsThere';
import { entryOf } from '../value/entryOf';
import { isRefusal } from '../value/refusal';
import { alikeAmong, misreadAmong } from './alike';
import { openBays, type ScanBay, type ScanList, type ScansRead } from './scanList';

/**
 * What a scan is. `here`: for the bay the hand is at; `other-bay`: for another one of the list; `already-in`: it was read or
 * stands there already; `other-unit`: another unit counts on it; `stored`: in a drawer, in hand or on an order; `alike`: it
 * may be one that is known, misread; `unknown`: on no list.
 */
export type Verdict = 'here' | 'other-bay' | 'already-in' | 'other-unit' | 'stored' | 'alike' | 'unknown';

/** What a drive is stopped by, as the step itself would stop it. */
export interface ScanStop {
  readonly code: string;
  readonly sentence: string;
  /** The way back. */
  readonly back: string;
  /** An owner may go on all the same, when the list is confirmed. */
  readonly mayOverride: boolean;
}

/** What was read, judged before a hand moves. */
export interface ScanJudgement {
  readonly kind: 'scan-judgement';
  readonly verdict: Verdict;
  /** The drive it is taken for, by its serial; as it was read where it is none that is known. */
  readonly serial: string;
  /** Where it goes; of one that is in already, or is another unit's, where it stands. */
  readonly bay?: string;
  /** The other unit, and its pool, by their ids. */
  readonly unit?: string;
  readonly pool?: string;
  /** How many more members that pool may lose, by its record. */
  readonly marginThere?: number;
  /** Serials it may be. */
  readonly alike?: readonly string[];
  /** Bays it may go into instead of the drive that is expected there: a person says which. */
  readonly insteadOf?: readonly ScanBay[];
  /** Why it must not go in although it has a bay. */
  readonly stop?: ScanStop;
  /** What it is and what to do with it, in words for whoever holds it. */
  readonly sentence: string;
}

/** What the record says of a drive that was read; `null` where it knows none. */
export interface ScanKnown extends KnownDrive {
  readonly where: DriveLife['where'];
  readonly order?: string;
}

/** A drive's own ledger, as a scan asks it. */
export function scanKnown(life: DriveLife, there: StandsThere | null): ScanKnown {
  return {
    ...knownDrive(life, there),
    where: life.where,
    ...(life.order === undefined ? {} : { order: life.order }),
  };
}

/** A scan, with all that is known around it. */
export interface Scanned {
  readonly typed: string;
  /** The bay the hand is at; the next open one where left out. */
  readonly bay?: string;
  readonly read: ScansRead;
  /** `undefined`: the record could not be asked. */
  readonly known: ScanKnown | null | undefined;
  /** What was read off it besides its serial; left out, it is taken to be as planned, and its size is asked for afterwards. */
  readonly drive?: Pick<DriveFacts, 'bytes' | 'basis' | 'label'>;
  /** Serials on record that it may be mistaken for. */
  readonly near: readonly string[];
  /** Serials a person said it is not. */
  readonly not?: readonly string[];
  /** ISO 8601 */
  readonly at: string;
}

/**
 * Judges a serial the moment it is read, before any bay is named: which drive it is, whose, and where it goes. Total. It is
 * the same for every list of scans, on the server and in a browser without a network.
 *
 * @returns never `here` for a drive that another unit counts on, that stands in a bay, or that may be another one
 */
export function judgeScan(list: ScanList, given: Scanned): ScanJudgement {
  const { unit } = list;
  const isNot = (serial: string): boolean => given.not?.some((one) => isSameSerial(one, serial)) === true;
  // What a person says it is not, was found by its ending or by nothing.
  const scan = given.known && isNot(given.known.serial) ? { ...given, known: null } : given;
  const open = openBays(list, scan.read);
  const next = open.find(({ bay }) => bay === scan.bay) ?? open[0];
  const planned = [...list.bays.flatMap(({ expects }) => expects ?? []), ...list.anyOf];
  const meant = whichSerial(
    scan.typed,
    planned.filter((one) => !isNot(one)),
  );
  const key = serialKey(scan.typed);
  // By its last characters it may be one of two: the one that is planned, and one that is somewhere else.
  if (meant !== null && meant !== key && scan.known && scan.known.serial !== meant)
    return asked(scan, [meant, scan.known.serial]);
  const twice = Object.entries(scan.read).find(([, one]) => whichSerial(scan.typed, [one]) !== null);
  if (twice)
    return said(
      'already-in',
      serialKey(twice[1]),
      `${serialKey(twice[1])} ${list.way === 'out' ? 'was read for' : 'was read already, for'} ${bayName(unit, twice[0])}. One drive is read once: this is it, or the label of another was meant.`,
      { bay: twice[0] },
    );
  if (meant !== null) return ofPlanned(list, scan, meant, open, next);
  const here = entryOf(unit.drives, whichSerial(scan.typed, standing(list)) ?? '');
  if (here?.bay != null) return standsHere(list, here.serial, here.bay, next);
  const { known } = scan;
  if (known?.there) return ofOtherUnit(known.serial, known.there);
  if (!known) {
    const alike = mayBe(list, scan, planned);
    if (alike.length > 0) return asked(scan, alike);
  }
  return notPlanned(list, scan, open, next);
}

/** Serials of drives that stand in the unit. */
function standing({ unit }: ScanList): string[] {
  return Object.values(unit.drives).flatMap(({ serial, bay }) => (bay === null ? [] : serial));
}

function said(
  verdict: Verdict,
  serial: string,
  sentence: string,
  more: Partial<Omit<ScanJudgement, 'kind'>> = {},
): ScanJudgement {
  return Object.freeze({ kind: 'scan-judgement', verdict, serial, ...more, sentence });
}

/** One that is planned: for the bay the hand is at, or for another. */
function ofPlanned(
  list: ScanList,
  scan: Scanned,
  serial: string,
  open: readonly ScanBay[],
  next: ScanBay | undefined,
): ScanJudgement {
  const { unit, way } = list;
  const own = list.bays.find(({ expects }) => expects !== undefined && serialKey(expects) === serial);
  const to = own ? open.find(({ bay }) => bay === own.bay) : next;
  if (!to)
    return said(
      'other-bay',
      serial,
      own
        ? `${serial} is planned for ${bayName(unit, own.bay)}, and another drive was read for that bay. Look at that one again.`
        : 'Every bay of the list has its drive.',
      own ? { bay: own.bay } : {},
    );
  const name = bayName(unit, to.bay);
  const isHere = to.bay === next?.bay;
  const stop = way === 'in' ? stopAt(list, scan, to.bay, serial) : undefined;
  const sentence =
    way === 'out'
      ? `${serial} out of ${name}: write ${bayShort(unit, to.bay)} on it.`
      : isHere
        ? `${serial} into ${name}: push until it clicks.`
        : `${serial} belongs into ${name}: put it there, not into ${bayName(unit, next?.bay)}.`;
  return said(isHere ? 'here' : 'other-bay', serial, stop?.sentence ?? sentence, {
    bay: to.bay,
    ...(stop ? { stop } : {}),
  });
}

/** One that stands in this unit by its record, in a bay that is none of the list. */
function standsHere(list: ScanList, serial: string, bay: string, next: ScanBay | undefined): ScanJudgement {
  const { unit, way } = list;
  const name = bayName(unit, bay);
  return said(
    'already-in',
    serial,
    way === 'out'
      ? `${serial} stands in ${name} by the record, and is none of those that come out. If it is in your hand, put it back into ${name}.`
      : `${serial} stands in ${name} of ${unit.name} already. If it is in your hand, put it back there before anything goes into ${bayName(unit, next?.bay)}.`,
    { bay },
  );
}

/** One that another unit counts on. */
function ofOtherUnit(serial: string, there: StandsThere): ScanJudgement {
  const { unit, pool, margin, bay } = there;
  const { sentence, back } = otherUnitWords(serial, there);
  return said('other-unit', serial, `${sentence} ${back}`, {
    unit,
    ...(bay === null ? {} : { bay }),
    ...(pool === undefined ? {} : { pool }),
    ...(margin === undefined ? {} : { marginThere: margin }),
  });
}

/** Drives that are planned, stand here, were read, or are on record and may be the one that was read. */
function mayBe(
  list: ScanList,
  { typed, read, near, not = [] }: Scanned,
  planned: readonly string[],
): readonly string[] {
  const key = serialKey(typed);
  const isNot = new Set(not.map(serialKey));
  const known = [...planned, ...standing(list), ...near];
  // Fewer characters than a serial has: whatever ends so.
  const ending = known.map(serialKey).filter((one) => one !== key && one.length > key.length && one.endsWith(key));
  // Drives bought together have serials that follow one another: of those just read only a misreading is asked about.
  const again = misreadAmong(key, Object.values(read));
  return [...new Set([...(key.length >= LAST ? ending : []), ...alikeAmong(key, known), ...again])].filter(
    (one) => !isNot.has(serialKey(one)),
  );
}

/** As many characters of the end of a serial are read off a label at arm's length. */
const LAST = 4;

const MOST_ASKED = 4;

function asked({ typed }: Scanned, alike: readonly string[]): ScanJudgement {
  const few = alike.slice(0, MOST_ASKED);
  return said(
    'alike',
    serialKey(typed),
    `${serialKey(typed)} is on no list; is it ${few.join(', or ')}? Read the label again, character by character, before it goes anywhere.`,
    { alike: few },
  );
}

/** One that is on no list: it goes where no other is expected; otherwise a person says instead of which. */
function notPlanned(list: ScanList, scan: Scanned, open: readonly ScanBay[], next: ScanBay | undefined): ScanJudgement {
  const { unit, way, anyOf } = list;
  const { known } = scan;
  const serial = known?.serial ?? serialKey(scan.typed);
  const verdict: Verdict = known ? 'stored' : 'unknown';
  const what = known
    ? `${serial} is on record ${known.order === undefined ? '' : `from order ${known.order}, `}as ${whereWords(known.where)}`
    : known === null
      ? `${serial} is new to the record`
      : `${serial}: not known here, and the record could not be asked without a network`;
  if (way === 'out')
    return said(
      verdict,
      serial,
      `${what}; ${next?.expects === undefined ? 'no such drive' : next.expects} comes out of ${bayName(unit, next?.bay)} by the record. Read it again. If it is right, leave it in its bay: the record of that bay is wrong, and is put right first.`,
    );
  if (anyOf.length > 0 || list.step?.does.some(({ kind }) => kind === 'carry-in') === true)
    return said(
      verdict,
      serial,
      `${what}, and none of the drives that are carried. Put it aside: nothing foreign goes in before everything that came along is seen.`,
    );
  const isFree = (one: ScanBay): boolean => one.expects === undefined;
  const to = next && isFree(next) ? next : open.find(isFree);
  if (!to) {
    return said(
      verdict,
      serial,
      open.length === 0
        ? `${what}; every bay of the list has its drive. Put it aside.`
        : `${what}, and not planned for any bay of this list. Take it instead of which? Or put it aside.`,
      { insteadOf: open },
    );
  }
  const stop = stopAt(list, scan, to.bay, scan.typed);
  const name = bayName(unit, to.bay);
  return said(
    verdict,
    serial,
    stop?.sentence ??
      (known === undefined
        ? `${what}. Into ${name} only if it is new out of its packing: one that came out of another unit may hold that unit together.`
        : `${what}. Into ${name}: push until it clicks.`),
    { bay: to.bay, ...(stop ? { stop } : {}) },
  );
}

/** What the step itself would stop of this drive in this bay, found by trying it. */
function stopAt(
  { unit, step, units }: ScanList,
  { known, drive, at }: Scanned,
  bay: string,
  serial: string,
): ScanStop | undefined {
  if (!step) return undefined;
  const alone = aloneAt(step, bay);
  const planned = known ? undefined : fitting(alone)?.drive;
  const read = drive ?? (planned && driveFacts(planned));
  const seen = attempt(unit, alone, { kind: 'serial', serial, ...(read ? { drive: read } : {}) }, at, {
    knows: () => known ?? undefined,
    ...(units ? { units } : {}),
  });
  if (isRefusal(seen)) return { code: seen.code, sentence: seen.sentence, back: '', mayOverride: false };
  const [first] = seen.interlocks;
  if (!first) return undefined;
  const { code, sentence, back, mayOverride } = first;
  return { code, sentence, back, mayOverride };
}
