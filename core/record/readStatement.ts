import type { Metric } from '../../schemas/metrics';
import { readSize } from '../drive/readSize';
import { shownAmounts } from '../quantity/shownAmount';
import { isRefusal } from '../value/refusal';
import type { StatedUnitEvent } from '../../schemas/unitEvent';
import { whichSerial } from '../drive/whichSerial';
import { serialKey } from '../drive/serial';
import { BayName, baysMeant, enclosuresMeant } from '../unit/bayName';
import { baysOf, poolsOf, drivesExpected, driveInBay, type UnitState } from '../unit/state';
import { lampMeant } from '../upkeep/decodeLamp';
import { apply } from '../unit/apply';
import { aboutCache } from './aboutCache';
import { aboutPools } from './aboutPools';
import { aboutVolumes } from './aboutVolumes';
import { eventWords } from './eventWords';

/** A statement as it was understood: what it would record. */
export interface Statement {
  readonly kind: 'statement';
  /** What it would record, in a sentence. */
  readonly sentence: string;
  readonly event: StatedUnitEvent;
}

/** A measured value, which goes to the readings rather than to the ledger. */
export interface Measured {
  readonly kind: 'measured';
  readonly sentence: string;
  /** A pool by its id, a drive by its serial. */
  readonly subject: string;
  readonly metric: Metric;
  readonly value: number;
}

/** Something that is still to be done: a plan leads through it, and nothing is recorded. */
export interface ToDo {
  readonly kind: 'to-do';
  readonly sentence: string;
  /** The drive it is about. */
  readonly serial: string;
}

/** The part of a sentence that says which bay, with what stands before it. */
const PLACE_SAID =
  /^(.*?)\b(?:(?:bay|slot|tray|drive|disk) #?[\w.:-]+(?:,? (?:of|in|on) (?:the )?(?:[a-z]+ ?#?\d+|head))?|[a-z]\d*[·.:-]\d+)\s*(?:is|has|was)?\s*/i;

const SICK =
  /(expects? to fail|failing|predict|click|noisy|noise|slow|error|warning|reallocat|unreadable|pending|bad sector|sick|suspect|degrad|hot)/;
const DEAD = /(failed|fails|dead|died|gone|broken|red|amber|orange|violet|magenta|faulty|dropped out|blink)/;
/** Colours and rhythms of lamps. */
const LAMP_LOOKS =
  /\b(fast|slow|steady|amber|red|violet|magenta|blink\w*|flash\w*|green|blue|white|orange|lamp|light|led)\b/g;
const OUT = /(pulled|removed|taken out|took out|came out|out of (the )?bay)/;

/**
 * Reads what a person says happened to a unit, in a few words: "bay 3 is clicking", "14 of 15 drives seen", "firmware
 * updated to 4.2", "backup restored". Everything it could mean, the likeliest first; a plain note comes last, so that
 * nothing a person says is turned away.
 */
export function readStatement(unit: UnitState, text: string): (Statement | Measured | ToDo)[] {
  const said = text.trim().replace(/\s+/g, ' ').slice(0, 400);
  if (said === '') return [];
  const low = said.toLowerCase();
  const found: (Statement | Measured)[] = [];
  const add = (event: StatedUnitEvent, sentence = eventWords(event, unit)): void =>
    void found.push({ kind: 'statement', event, sentence });

  const seen = /\b(\d{1,4}) (?:of|out of|\/) ?(\d{1,4}) ?(?:drives|disks|members)?/.exec(low);
  const [box] = enclosuresMeant(unit, low);
  // Held against what there is: of more drives than bays nobody has counted this unit.
  const bays = box ? box.bays.length : baysOf(unit).length;
  if (
    seen &&
    Number(seen[1]) <= Number(seen[2]) &&
    Number(seen[2]) <= bays &&
    /drive|disk|member|seen|present/.test(low)
  ) {
    const counted: StatedUnitEvent = {
      kind: 'drives-counted',
      seen: Number(seen[1]),
      expected: Number(seen[2]),
      ...(box ? { enclosure: box.name } : {}),
    };
    add(counted);
  } else if (/^(all )?(\d{1,4} )?(drives|disks) (seen|present|there)/.test(low)) {
    const count = /(\d{1,4})/.exec(low)?.[1];
    add({ kind: 'drives-counted', seen: count === undefined ? drivesExpected(unit) : Number(count) });
  }

  const firmware =
    /firmware.*\b(?:to|now|is|at|version|v)\s*v?([\w][\w.-]{0,38})$/i.exec(said) ??
    /firmware ([\d][\w.-]*)/i.exec(said);
  if (/^(the )?firmware/.test(low) && firmware?.[1]) add({ kind: 'firmware-updated', version: firmware[1].trim() });

  const sign = baysMeant(unit, low).length === 0 ? lampMeant(unit.profile, low, false) : undefined;
  if (sign) add({ kind: 'sign-noted', note: said, lamp: sign.see }, `“${sign.see}” is seen: ${sign.means}`);
  const todo = toDo(unit, low);
  if (todo)
    return [...todo, { kind: 'statement', event: { kind: 'noted', note: said }, sentence: `Only note: “${said}”` }];
  found.push(
    ...aboutBay(unit, said, low),
    ...aboutSerial(unit, said, low),
    ...aboutCopies(unit, low),
    ...aboutWork(unit, low),
    ...aboutParts(unit, low),
  );
  for (const event of aboutCache(unit, low)) add(event);
  for (const event of aboutVolumes(unit, said)) add(event, wordsIn(unit, event));
  if (found.length === 0)
    for (const { event } of aboutPools(unit, low))
      if (!isRefusal(apply(unit, event, unit.registeredAt))) add(event, wordsIn(unit, event));

  const percentFull = /(\d{1,3}(?:[.,]\d)?) ?% ?(full|used)/.exec(low);
  const usedSize =
    /(?:used|holds)\s+([\d.,]+ ?[kmgtp]i?b)\b/.exec(low) ?? /([\d.,]+ ?[kmgtp]i?b) (?:used|in use)/.exec(low);
  for (const pool of poolsOf(unit)) {
    const shown = usedSize?.[1] === undefined ? [] : shownAmounts(usedSize[1], unit.profile.unitPage, pool.shownBytes);
    const amounts =
      percentFull?.[1] !== undefined
        ? [Math.round((Number(percentFull[1].replace(',', '.')) / 100) * pool.shownBytes)]
        : isRefusal(shown)
          ? []
          : shown;
    // What can be read as either of two is offered as both.
    for (const used of amounts.filter((one) => one <= 2 * pool.shownBytes))
      found.push({
        kind: 'measured',
        subject: pool.id,
        metric: 'used-bytes',
        value: used,
        sentence: `${pool.name} is ${String(Math.round((used / pool.shownBytes) * 100))} % full.`,
      });
  }

  if (
    /\b(power (cut|failure|outage)|(lost|no) power|power went( off| out)?|mains (is |are )?(gone|off|out))\b/.test(low)
  )
    add({ kind: 'power', on: false }, 'The power failed: it is off.');
  if (/\b(restarted|rebooted|started again|came up again)\b/.test(low))
    if (unit.power === 'off') add({ kind: 'power', on: true }, 'It has started again: it is on.');
    else
      add(
        { kind: 'noted', note: said },
        'It restarted. Look whether work that was under way began again, and say what percent it shows.',
      );
  if (/^(switched |powered |power |turned )?off$|switched off|powered down|power(ed)? off|shut down/.test(low))
    add({ kind: 'power', on: false });
  if (/^(switched |powered |power |turned )?on$|switched on|powered (up|on)|power on/.test(low))
    add({ kind: 'power', on: true });
  if (/(test )?(alarm|mail).*(arrived|tested|came|works)/.test(low))
    add({ kind: 'check-confirmed', check: 'alarm-mail-tested' });
  if (/(factory |default )?password.*(changed|new)/.test(low))
    add({ kind: 'check-confirmed', check: 'factory-password-changed' });
  const speed =
    /(\d+(?:[.,]\d+)?) ?(?:mb\/s)? ?(?:read|down)\w*[ ,/and]+(\d+(?:[.,]\d+)?) ?(?:mb\/s)? ?(?:writ|up)\w*/.exec(low) ??
    /(?:speed|reads?) (\d+(?:[.,]\d+)?)[ ,/andwrites]+(\d+(?:[.,]\d+)?)/.exec(low);
  if (speed?.[1] && speed[2])
    add({
      kind: 'speed-measured',
      readBytesPerSecond: mega(speed[1]),
      writeBytesPerSecond: mega(speed[2]),
      ...(unit.speed.baseline === null ? { isBaseline: true } : {}),
    });
  if (
    /(settled|all well|back to normal|lamp (is )?(out|off)|stopped beeping|beeping stopped)/.test(low) &&
    unit.signs.length > 0
  )
    add({ kind: 'signs-cleared', note: said });
  else if (
    /(light|lamp|led|beep|tone|knock|chime|alarm|smell|hot|warning|noise|noisy|hum)/.test(low) &&
    !found.some((one) => one.kind === 'statement' && one.event.kind !== 'check-confirmed')
  )
    add({ kind: 'sign-noted', note: said });

  add(
    { kind: 'noted', note: said },
    found.length > 0
      ? `Only note: “${said}”`
      : `Not understood, and changes nothing in the record. Only note: “${said}”`,
  );
  return found;
}

/** What is still to be done, said as a command: "pull bay 2", "replace bay 3". */
const TO_DO =
  /^(?:please |to ?do:? |must |should |need to |have to )?(pull|replace|remove|take out|swap|change)\b(?! (?:was|is|done|d\b))/;

/** A command is no observation: it is asked whether it was done, and a plan leads where it is still to be. */
function toDo(unit: UnitState, low: string): (Statement | ToDo)[] | null {
  const verb = TO_DO.exec(low)?.[1];
  const bays = verb === undefined ? [] : baysMeant(unit, low);
  const drives = bays.flatMap((bay) => driveInBay(unit, bay) ?? []);
  if (drives.length === 0) return null;
  return drives.flatMap(({ serial, bay }): (Statement | ToDo)[] => [
    {
      kind: 'to-do',
      sentence: `${BayName(unit, bay)}, ${serial}: still to be done. Plan its replacement`,
      serial,
    },
    {
      kind: 'statement',
      event: { kind: 'drive-removed', serial },
      sentence: `Done already: ${BayName(unit, bay)}, ${serial}, is out`,
    },
  ]);
}

/** Which pool is meant, where there is more than one. */
function wordsIn(unit: UnitState, event: StatedUnitEvent): string {
  const name = 'pool' in event && event.pool !== undefined ? unit.pools[event.pool]?.name : undefined;
  return name === undefined ? eventWords(event, unit) : `${name}: ${eventWords(event, unit)}`;
}

function aboutBay(unit: UnitState, said: string, low: string): (Statement | Measured)[] {
  // Where it was not said which enclosure, every one of them is offered: a person chooses, nobody guesses.
  const bays = baysMeant(unit, low);
  if (bays.length > 0) return bays.flatMap((bay) => aboutOneBay(unit, bay, said, low));
  // A drive called by its serial, or by its last four where they are of one.
  const standing = Object.values(unit.drives).filter(({ bay }) => bay !== null);
  return said.split(/[\s,;:]+/).flatMap((word) => {
    const meant =
      word.length < 4
        ? null
        : whichSerial(
            word,
            standing.map(({ serial }) => serial),
          );
    const bay = meant === null ? null : unit.drives[meant]?.bay;
    return bay == null || isGoingIn(low)
      ? []
      : aboutOneBay(unit, bay, said.replace(word, `bay ${bay}`), low.replace(word.toLowerCase(), `bay ${bay}`));
  });
}

/** "… into bay 4": about a drive that comes, not one that stands. */
function isGoingIn(low: string): boolean {
  return /\b(in|into) /.test(low);
}

function aboutOneBay(unit: UnitState, bay: string, said: string, low: string): (Statement | Measured)[] {
  const drive = driveInBay(unit, bay);
  if (!drive) return [];
  const { serial } = drive;
  const [place = '', before = ''] = PLACE_SAID.exec(low) ?? [];
  const behind = low.slice(place.length);
  // "deactivated bay 1" says it before.
  const note = before.trim() === '' ? said.slice(place.length).slice(0, 400) || said : said;
  const of = (event: StatedUnitEvent): Statement => ({
    kind: 'statement',
    event,
    sentence: `${BayName(unit, bay)}: ${eventWords(event, unit)}`,
  });
  const lamp = lampMeant(unit.profile, low, true);
  // What a lamp looks like says what the family says it means, and no more.
  const rest = (lamp ? `${behind} ${before}`.replace(LAMP_LOOKS, ' ') : `${behind} ${before}`).trim();
  const counted = measuredOf(rest, serial, BayName(unit, bay));
  const meant: StatedUnitEvent[] = [];
  if (/out of service|offline|deactivat/.test(rest)) meant.push({ kind: 'drive-taken-out-of-service', serial });
  if (OUT.test(rest)) meant.push({ kind: 'drive-removed', serial });
  if (/(came|is|has come) back|^back\b|returned|seen again/.test(rest))
    meant.push({ kind: 'drive-returned', serial, note });
  if (/(is |looks )?(well|fine|ok|good)\b|cleared/.test(rest)) meant.push({ kind: 'drive-cleared', serial, note });
  if (SICK.test(rest)) meant.push({ kind: 'drive-suspected', serial, note });
  if (DEAD.test(rest)) meant.push({ kind: 'drive-failed', serial, note });
  const seen: Statement[] = lamp
    ? [
        {
          kind: 'statement',
          event: { kind: 'sign-noted', note: said, lamp: lamp.see, bay },
          sentence: `${BayName(unit, bay)}: “${lamp.see}” is seen: ${lamp.means}`,
        },
      ]
    : [];
  if (meant.length === 0 && counted.length === 0 && !lamp)
    meant.push({ kind: 'drive-suspected', serial, note }, { kind: 'drive-failed', serial, note });
  return [...seen, ...counted, ...meant.map(of)];
}

const COUNTS: readonly (readonly [RegExp, Metric, string])[] = [
  [/(\d+) (?:reallocated|remapped)/, 'reallocated-sectors', 'reallocated sectors'],
  [/(\d+) (?:pending|unreadable|waiting)/, 'pending-sectors', 'sectors waiting to be reallocated'],
  [/(\d+) (?:read )?errors?/, 'read-errors', 'read errors'],
  [/(\d+) ?(?:°c|°|degrees)/, 'temperature', '°C'],
  [/(\d+) (?:power.?on )?hours/, 'power-on-hours', 'hours switched on'],
  [/(\d+) ?%(?: of (?:its|the))?(?: rated)? life (?:is )?left/, 'life-left', '% of its rated life left'],
];

/** "bay 3: 16 reallocated sectors": counts a drive keeps of itself. */
function measuredOf(rest: string, serial: string, place: string): Measured[] {
  return COUNTS.flatMap(([pattern, metric, words]): Measured[] => {
    const count = pattern.exec(rest)?.[1];
    return count === undefined
      ? []
      : [{ kind: 'measured', subject: serial, metric, value: Number(count), sentence: `${place}: ${count} ${words}.` }];
  });
}

/** "QH4-05231-M58R into bay 2, 4 TB": a drive that goes in. */
function aboutSerial(unit: UnitState, said: string, low: string): Statement[] {
  const match = /(\S+) (?:put |fitted |went )?(?:in|into) (.*)$/i.exec(said);
  const [, serial, where = ''] = match ?? [];
  const [bay, ...others] = baysMeant(unit, where).filter((one) => !driveInBay(unit, one));
  if (serial === undefined || bay === undefined || others.length > 0 || !/\d/.test(serial)) return [];
  const known = unit.drives[serialKey(serial)];
  const written = /([\d.,]+ ?[gtp]i?b)\b/.exec(low)?.[1];
  const size = written === undefined ? null : readSize(written);
  const drive =
    size !== null && !isRefusal(size)
      ? { serial, bytes: size.bytes, basis: size.basis, ...(size.label === undefined ? {} : { label: size.label }) }
      : known
        ? { serial, bytes: known.bytes, basis: known.basis }
        : null;
  if (!drive) return [];
  const event: StatedUnitEvent = { kind: 'drive-inserted', bay, drive };
  return [{ kind: 'statement', event, sentence: eventWords(event, unit) }];
}

function aboutCopies(unit: UnitState, low: string): Statement[] {
  if (!/backup|restore|copy|copies/.test(low)) return [];
  const outcome = /restor/.test(low)
    ? /(not|fail|could not|error)/.test(low)
      ? 'restore-failed'
      : 'restore-worked'
    : /(fail|error|stopped|did not)/.test(low)
      ? 'failed'
      : /(ran|done|finished|ok|worked|succeeded)/.test(low)
        ? 'ran'
        : null;
  if (outcome === null) return [];
  return Object.values(unit.dataSets).flatMap((set) =>
    Object.values(set.copies).map((copy): Statement => {
      const event: StatedUnitEvent = { kind: 'copy-confirmed', dataSet: set.id, copy: copy.id, outcome };
      return { kind: 'statement', event, sentence: `${set.name}, copy at ${copy.where}: ${eventWords(event, unit)}` };
    }),
  );
}

function aboutWork(unit: UnitState, low: string): Statement[] {
  const percent = /(\d{1,3}(?:[.,]\d{1,2})?) ?%/.exec(low)?.[1];
  const isDone = /(done|finished|complete|healthy)/.test(low);
  const isWork = /(rebuil|build|scrub|check|expan|convert|copy|test|%|repair)/.test(low);
  if (!isWork || /full|used|\blife\b/.test(low)) return [];
  return Object.values(unit.jobs).flatMap((job): Statement[] => {
    const of = (event: StatedUnitEvent): Statement => ({
      kind: 'statement',
      event,
      sentence: `${job.task === 'rebuild' ? 'Rebuild' : 'Work under way'}: ${eventWords(event, unit)}`,
    });
    if (percent !== undefined && Number(percent.replace(',', '.')) <= 100)
      return [of({ kind: 'job-progressed', job: job.id, percent: Number(percent.replace(',', '.')) })];
    if (isDone) return [of({ kind: 'job-finished', job: job.id })];
    if (/(again|restart|from the start)/.test(low)) return [of({ kind: 'job-restarted', job: job.id })];
    return /(stopp|abort|cancel)/.test(low) ? [of({ kind: 'job-aborted', job: job.id })] : [];
  });
}

function aboutParts(unit: UnitState, low: string): Statement[] {
  const match = /\b(supply|psu|power supply|fan|cable|port|battery) ?([\w-]{0,10})/.exec(low);
  if (!match) return [];
  const part = ({ psu: 'supply', 'power supply': 'supply' }[match[1] as string] ?? match[1]) as
    'supply' | 'fan' | 'cable' | 'port' | 'battery';
  const name = /^\d/.test(match[2] ?? '') ? (match[2] as string) : '1';
  // Every box has supplies and fans of its own.
  const [box] = enclosuresMeant(unit, low);
  const isBack = /(back|replaced|works again|fine)/.test(low);
  const partName = box ? `${name} of ${box.name}`.slice(0, 60) : name;
  const isOut = /(fail|out|dead|stopped|loose|gone|broken|not)/.test(low);
  if (!isBack && !isOut) return [];
  const event: StatedUnitEvent = isBack
    ? { kind: 'part-back', part, name: partName }
    : { kind: 'part-lost', part, name: partName };
  return [{ kind: 'statement', event, sentence: eventWords(event, unit) }];
}

function mega(text: string): number {
  return Number(text.replace(',', '.')) * 1e6;
}
