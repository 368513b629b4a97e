import { bayName, BayName } from '../unit/bayName';
import { isDown, isProvenLost, isThinned } from '../unit/margin';
import { preview } from '../unit/preview';
import { driveInBay, membersOf, poolOfDrive, poolsOf, type UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import type { Profile } from '../platform/profile';

type Lamp = Profile['lamps'][number];

export interface LampMeaning {
  readonly kind: 'lamp-meaning';
  readonly see: string;
  /** True for a lamp of one bay: which one decides what it means. */
  readonly isOfBay: boolean;
  /** What it means in this family. */
  readonly means: string;
  /** What it means on this unit at this moment. */
  readonly now: string;
  /**
   * `expected`: only what the record explains. `new`: nothing in the record explains it. `worse`: the record knows of
   * trouble, and this would be more. `unsaid`: it belongs to a bay, and which one was not said.
   */
  readonly reads: 'expected' | 'new' | 'worse' | 'unsaid';
  readonly silence: string;
}

/** What can be seen or heard on units of this family. The same yellow is "new firmware" here and "dying drive" there. */
export function lampsOf(profile: Profile): readonly Lamp[] {
  return profile.lamps;
}

/** Words that say of every lamp that it is one. */
const LAMP_SAID = new Set([
  'bay',
  'tray',
  'drive',
  'unit',
  'lamp',
  'lamps',
  'light',
  'led',
  'the',
  'a',
  'is',
  'of',
  'at',
  'its',
  'and',
  'every',
]);

/** Words of a sentence that tell one sign from another. */
function tellingWords(text: string): string[] {
  return text
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '' && !LAMP_SAID.has(word));
}

/**
 * The sign of the family that a sentence describes in its own words, all of which it must hold: the one with the most of
 * them.
 *
 * @param isAtBay the words are of a bay
 */
export function lampMeant(profile: Profile, text: string, isAtBay: boolean): Lamp | undefined {
  const said = new Set(tellingWords(text));
  return profile.lamps
    .filter(
      ({ see, isOfBay = false }) =>
        isOfBay === isAtBay && tellingWords(see).length > 0 && tellingWords(see).every((word) => said.has(word)),
    )
    .sort((a, b) => tellingWords(b.see).length - tellingWords(a.see).length)[0];
}

/**
 * Reads one lamp or beep on one unit: what it means in its family, and whether the record explains it, here and now. The
 * worst reading wins: of a lost pool no lamp is "only thinned", and of a bay the record has well none is "expected".
 *
 * @param see one of the family's signs, word for word; anything else is `null`
 * @param at the moment it is seen (ISO 8601)
 * @param bay where it is seen, for one of a bay
 */
export function decodeLamp(unit: UnitState, see: string, at: string, bay?: string): LampMeaning | null {
  const lamp = unit.profile.lamps.find((one) => one.see === see);
  if (!lamp) return null;
  const { means, silence, isOfBay = false } = lamp;
  return Object.freeze({ kind: 'lamp-meaning', see, isOfBay, means, silence, ...readingOf(unit, lamp, at, bay) });
}

type Reading = Pick<LampMeaning, 'now' | 'reads'>;

function readingOf(unit: UnitState, lamp: Lamp, at: string, bay: string | undefined): Reading {
  const lost = poolsOf(unit).find(isDown);
  if (lost)
    return {
      reads: 'worse',
      now: `${lost.name} has ${isProvenLost(unit, lost) ? 'lost data' : 'stopped'}. Pull nothing, fit nothing, restart nothing, whatever it shows: open the rescue desk.`,
    };
  if (lamp.isOfBay === true)
    return bay === undefined
      ? { reads: 'unsaid', now: 'Choose the bay it is lit at: at one it is expected, at another a second fault.' }
      : atBay(unit, lamp, at, bay);
  const { explainedBy = 'nothing' } = lamp;
  const isKnown = {
    nothing: false,
    thinned: isThinned(unit),
    work: Object.keys(unit.jobs).length > 0,
    part: unit.parts.length > 0 || unit.away.length > 0,
    start: unit.power === 'off',
  }[explainedBy];
  const unexplained = {
    nothing: 'The record knows nothing that explains it: take it as new.',
    thinned:
      'The record has every member well: take it as new. Compare the unit’s page with the record before touching a drive.',
    work: 'The record knows of no work under way: look at the unit’s page.',
    part: 'The record has every part well: take it as new.',
    start: 'The record has the unit running: give it a quarter of an hour before you believe it.',
  }[explainedBy];
  return isKnown ? expected(lamp) : { reads: 'new', now: unexplained };
}

function expected({ now = 'The record explains it.' }: Lamp): Reading {
  return { reads: 'expected', now: /^expected/i.test(now) ? now : `Expected. ${now}` };
}

/** A lamp of one bay, against what the record has of that very bay. */
function atBay(unit: UnitState, lamp: Lamp, at: string, bay: string): Reading {
  const drive = driveInBay(unit, bay);
  const place = BayName(unit, bay);
  const gone = poolsOf(unit).flatMap(({ missing }) => missing);
  const jobs = Object.values(unit.jobs);
  if (!drive) {
    // A tray that was emptied goes on blinking until the pool is whole.
    const left = gone.filter((serial) => unit.drives[serial]?.bay == null);
    return left.length > 0 && lamp.explainedBy === 'thinned'
      ? expected(lamp)
      : { reads: 'new', now: `The record has ${bayName(unit, bay)} empty: see what stands in it, and record it.` };
  }
  const pool = poolOfDrive(unit, drive.serial);
  const isWorked = jobs.some((job) => job.onto === drive.serial || (pool !== undefined && job.pool === pool.id));
  if (lamp.explainedBy === 'work' && isWorked) return expected(lamp);
  if (lamp.explainedBy === 'thinned' && (gone.includes(drive.serial) || jobs.some(({ onto }) => onto === drive.serial)))
    return expected(lamp);
  if (lamp.explainedBy !== 'thinned')
    return {
      reads: 'new',
      now: `${place}, ${drive.serial}: the record knows nothing that explains it. Look at the unit’s page, and record what it says of this drive.`,
    };
  const others = pool?.missing ?? [];
  const without = withoutIt(unit, drive.serial, at);
  if (drive.sick !== undefined || drive.condition === 'suspected')
    return {
      reads: 'worse',
      now: `${place}, ${drive.serial}, showed signs and worked${drive.note === undefined ? '' : ` (${drive.note})`}: now it may have left the pool. ${without}Pull nothing before the unit’s page says which it is; record it as failed when it does.`,
    };
  if (others.length > 0)
    return {
      reads: 'worse',
      now: `Not the one that is missing: that is ${others.join(', ')}. ${place}, ${drive.serial}, is well by the record. ${without}Pull nothing, restart nothing; look at the unit’s page, and record what it says.`,
    };
  return {
    reads: 'new',
    now: `${place}, ${drive.serial}, is well by the record: take it as new. ${without}Compare the unit’s page with the record before touching a drive.`,
  };
}

/** What would be left if this one were out, by the one model. */
function withoutIt(unit: UnitState, serial: string, at: string): string {
  const pool = poolOfDrive(unit, serial);
  if (!pool || !membersOf(pool).includes(serial)) return '';
  const seen = preview(unit, { kind: 'drive-failed', serial }, at);
  if (isRefusal(seen)) return '';
  const margin = seen.marginAfter[pool.id] ?? 0;
  return margin < 0
    ? `If it is out, ${pool.name} stops. `
    : `If it is out, ${pool.name} can lose ${margin === 0 ? 'none' : String(margin)} more. `;
}
