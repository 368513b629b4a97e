import { isSameSerial } from '../drive/serial';
import type { PlanStep, StepEvidence } from '../plan/plan';
import { bayName, BayName } from '../unit/bayName';
import { driveInBay, type UnitState } from '../unit/state';
import { entryOf } from '../value/entryOf';
import type { ObservedBay } from './observation';

/** What a unit itself says of a step hands are at. */
export interface UnitSays {
  readonly kind: 'unit-says';
  readonly sentence: string;
  /** It sees the step done: this is what it would be confirmed with. */
  readonly evidence?: StepEvidence;
  /** It sees something else done: the hands stop. */
  readonly isWrong?: true;
}

type Seen = Pick<ObservedBay, 'bay' | 'serial' | 'state' | 'percent' | 'isInWholePool'>;

/**
 * What a unit that is asked says of a step: that it sees the drive out, reads the serial of the one put in, has begun or
 * done its work; or that it sees another drive out. `null` where it has nothing to say of it.
 *
 * @param unit as it is on record, before the step
 * @param seen its bays as it told of them last
 * @param before serials it told of earlier, since somebody stands there
 */
export function provesStep(
  unit: UnitState,
  step: PlanStep,
  seen: readonly Seen[],
  before: readonly string[] = [],
): UnitSays | null {
  if (seen.length === 0) return null;
  const stray = missed(unit, step, seen);
  if (stray) return stray;
  const at = (bay: string): Seen | undefined => seen.find((one) => one.bay === bay);
  for (const one of step.does) {
    switch (one.kind) {
      case 'pull-drive':
        return pulled(unit, step, one.serial, seen, before);
      case 'fit-drive':
        return fitted(unit, step, one.drive.bay, at(one.drive.bay));
      case 'start-rebuild': {
        const drive = driveInBay(unit, one.bay);
        const bay = at(one.bay);
        return bay?.percent === undefined || !drive || !isSeen(bay, drive.serial)
          ? null
          : says(
              `${BayName(unit, one.bay)} is being written, at ${String(bay.percent)} %.`,
              proofOf(step, drive.serial),
            );
      }
      case 'finish-rebuild': {
        const job = Object.values(unit.jobs).find(({ replaces }) => replaces === one.replaces);
        const drive = job?.onto === undefined ? undefined : entryOf(unit.drives, job.onto);
        const bay = drive?.bay == null ? undefined : at(drive.bay);
        if (!drive || !bay || !isSeen(bay, drive.serial)) return null;
        if (bay.percent !== undefined) return says(`${BayName(unit, bay.bay)} is at ${String(bay.percent)} %.`);
        // A drive that is well may not have been begun yet: done is what the whole pool is.
        return bay.state === 'well' && bay.isInWholePool === true
          ? says(`${BayName(unit, bay.bay)} is written, and the unit has it well.`, DONE)
          : null;
      }
      default:
    }
  }
  return null;
}

function pulled(
  unit: UnitState,
  step: PlanStep,
  serial: string,
  seen: readonly Seen[],
  before: readonly string[],
): UnitSays | null {
  const drive = entryOf(unit.drives, serial);
  if (drive?.bay == null) return null;
  const own = seen.find(({ bay }) => bay === drive.bay);
  if (isThere(seen, drive.serial)) return says(`The unit still sees ${drive.serial} in ${bayName(unit, drive.bay)}.`);
  if (own?.state !== 'empty') return null;
  // A dead drive may be in its bay and not be seen at all: only one that was seen there and is no more has come out.
  if (!before.some((one) => isSameSerial(one, serial)))
    return says(
      `The unit sees ${bayName(unit, drive.bay)} empty, and has not told of ${drive.serial} since you are here: it may not see a dead drive. Read the serial off the drive in your hand.`,
    );
  const unseen = othersUnseen(unit, drive.serial, seen);
  return unseen === 0
    ? says(
        `The unit sees ${bayName(unit, drive.bay)} empty and every other drive in its place.`,
        proofOf(step, drive.serial),
      )
    : says(
        `The unit sees ${bayName(unit, drive.bay)} empty, and does not tell of ${unseen === 1 ? 'another drive' : `${String(unseen)} others`}: read the serial off the drive in your hand.`,
      );
}

/** How many other drives that ought to be seen it does not tell of, in boxes that are there by what is on record. */
function othersUnseen(unit: UnitState, serial: string, seen: readonly Seen[]): number {
  const there = new Set(unit.enclosures.filter(({ name }) => !unit.away.includes(name)).flatMap(({ bays }) => bays));
  return Object.values(unit.drives).filter(
    (one) =>
      one.bay !== null &&
      there.has(one.bay) &&
      one.serial !== serial &&
      one.condition !== 'failed' &&
      !isThere(seen, one.serial),
  ).length;
}

function fitted(unit: UnitState, step: PlanStep, bay: string, seen: Seen | undefined): UnitSays | null {
  if (!seen) return null;
  const { serial } = seen;
  if (serial === undefined) return says(`The unit sees ${bayName(unit, bay)} empty so far.`);
  const expects = step.asks.kind === 'serial' ? step.asks.expects : undefined;
  const before = driveInBay(unit, bay);
  if (before && isSameSerial(before.serial, serial)) return null;
  if (expects !== undefined && !isSameSerial(expects, serial))
    return says(
      `The unit reads ${serial} in ${bayName(unit, bay)}; planned is ${expects}. Stop, and look which one is right.`,
      'wrong',
    );
  return says(`The unit reads ${serial} in ${bayName(unit, bay)}.`, proofOf(step, serial));
}

/**
 * A drive that is gone and that no plan here takes out: the wrong one in a hand, or one that has dropped out. Whatever the
 * step, the hands stop.
 */
function missed(unit: UnitState, { does }: PlanStep, seen: readonly Seen[]): UnitSays | undefined {
  // Of a unit that is being emptied, everything is missing.
  if (unit.packed || Object.values(unit.plans).some(({ job }) => job === 'move' || job === 'carry-back'))
    return undefined;
  const planned = new Set([
    ...Object.values(unit.plans).flatMap(({ serials }) => serials),
    ...does.flatMap((one) => (one.kind === 'pull-drive' ? [one.serial] : [])),
  ]);
  const isGone = (bay: string | null): boolean => seen.some((one) => one.bay === bay && one.state === 'empty');
  const gone = Object.values(unit.drives).find(
    ({ bay, serial }) => bay !== null && !planned.has(serial) && isGone(bay) && !isThere(seen, serial),
  );
  if (!gone) return undefined;
  const meant = does.flatMap((one) => (one.kind === 'pull-drive' ? [entryOf(unit.drives, one.serial)] : []))[0];
  const still =
    meant?.bay != null && isThere(seen, meant.serial)
      ? `, and still has ${meant.serial} in ${bayName(unit, meant.bay)}`
      : '';
  return says(
    `The unit misses ${gone.serial} in ${bayName(unit, gone.bay)}${still}. Stop: if it is out, put it back where it was; if it is in, leave it, and look at the unit’s page.`,
    'wrong',
  );
}

/** A drive that stands in another bay than on record is no less there. */
function isThere(seen: readonly Seen[], serial: string): boolean {
  return seen.some((bay) => isSeen(bay, serial));
}

/** The unit's own word that it is done, in place of a page looked at twice. */
const DONE: StepEvidence = { kind: 'page', says: 'done', again: true, note: 'so says the unit itself, asked' };

function isSeen({ serial }: Seen, wanted: string): boolean {
  return serial !== undefined && isSameSerial(serial, wanted);
}

/** What the step asks for, as far as a unit can give it. */
function proofOf({ asks }: PlanStep, serial: string): StepEvidence | undefined {
  if (asks.kind === 'tick') return { kind: 'tick' };
  return asks.kind === 'serial' ? { kind: 'serial', serial } : undefined;
}

function says(sentence: string, of?: StepEvidence | 'wrong'): UnitSays {
  return Object.freeze({
    kind: 'unit-says',
    sentence,
    ...(of === 'wrong' ? { isWrong: true as const } : of === undefined ? {} : { evidence: of }),
  });
}
