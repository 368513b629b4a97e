import { bayName } from '../../unit/bayName';
import { serialKey } from '../../drive/serial';
import { tooSmallWords } from '../../drive/tooSmall';
import { factsOf } from '../../layout/scheme';
import { formatExactBytes } from '../../quantity/formatBytes';
import { fullMarginOfPool, marginOfPool } from '../../unit/margin';
import { neededBytes } from '../../unit/neededBytes';
import { preview, type Hazard } from '../../unit/preview';
import { membersOf, poolOfDrive, type DriveInUnit, type UnitState } from '../../unit/state';
import { isRefusal } from '../../value/refusal';
import type { PlanStep, StepEvidence } from '../plan';
import { expectedSerial } from './expectedSerial';
import { serialMeant, type KnownDrive } from './knownDrive';

/**
 * What stops a step: found by trying it on the state as it is, never by what the plan's text says. A sentence says what
 * would be lost, another how to get back.
 */
export interface Interlock {
  readonly kind: 'interlock';
  readonly code:
    | 'wrong-serial'
    | 'serial-unread'
    | 'too-early'
    | 'pool-lost'
    | 'another-failed'
    | 'another-takes-over'
    | 'erases-member'
    | 'sick-drive'
    | 'holds-data'
    | 'too-small'
    | 'size-differs'
    | 'shingled'
    | 'second-out'
    | 'data-lost'
    | 'interrupts-work'
    | 'asks-to-erase'
    | 'not-as-it-was'
    | 'copies-differ'
    | 'stock-differs'
    | 'names-taken'
    | 'last-copy'
    | 'cache-full'
    | 'cache-stuck'
    | 'no-copy'
    | 'copy-unproven'
    | 'space-missing'
    | 'drives-missing'
    | 'unwiped'
    | 'kept-until';
  readonly sentence: string;
  readonly back: string;
  /** The drive it is about: an owner who goes on all the same types it. */
  readonly serial: string;
  readonly mayOverride: boolean;
}

/** What the evidence itself says: a serial that is another one, or that nobody could read. */
export function interlocksOfEvidence(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  known?: KnownDrive,
): Interlock[] {
  const { asks, does } = step;
  if (asks.kind !== 'serial') return [];
  const expects = expectedSerial(unit, step);
  if (evidence.kind === 'unread') {
    return expects === undefined
      ? []
      : [
          {
            kind: 'interlock',
            code: 'serial-unread',
            sentence: `The serial was not read: nothing proves that this is ${expects}.`,
            back: 'Turn the drive over, use a light or the camera of a telephone; it also stands on its long edge. The unit’s own page shows the serial of each bay. If it cannot be read, leave the drive where it is and hand over to the owner.',
            serial: expects,
            mayOverride: true,
          },
        ];
  }
  if (evidence.kind !== 'serial') return [];
  const serial = serialMeant(unit, evidence.serial, expects, known);
  const repair = does.find((one) => one.kind === 'start-rebuild');
  const pool = poolOfDrive(unit, serial);
  if (repair?.kind === 'start-rebuild' && pool && membersOf(pool).includes(serial) && serial !== repair.replaces) {
    return [
      {
        kind: 'interlock',
        code: 'erases-member',
        sentence: `${serial} is a member of ${pool.name}: a repair onto it erases what it holds${afterLosing(unit, serial, at)}.`,
        back: `Answer no on the unit’s page, go back to its list of drives and choose ${expects ?? `the drive in ${bayName(unit, repair.bay)}`}.`,
        serial,
        mayOverride: false,
      },
    ];
  }
  if (expects === undefined || serialKey(expects) === serial) return [];
  return [
    {
      kind: 'interlock',
      code: 'wrong-serial',
      ...wrongDrive(unit, serial, expects, at, isAtPage(step)),
      serial,
      mayOverride: true,
    },
  ];
}

/** A step that is done in the unit's own page: no hand goes to a tray. */
function isAtPage({ does }: PlanStep): boolean {
  return !does.some(({ kind }) => kind === 'pull-drive' || kind === 'fit-drive' || kind === 'take-drive');
}

/**
 * What a drive is that is not the one meant, and the way back.
 *
 * @param atPage it was read in the unit's own page, and stands where it stood
 */
export function wrongDrive(
  unit: UnitState,
  serial: string,
  expects: string,
  at: string,
  atPage = false,
): Pick<Interlock, 'sentence' | 'back'> {
  const drive = unit.drives[serial];
  const meant = unit.drives[expects];
  const right = meant?.bay == null ? expects : `${bayName(unit, meant.bay)}, ${expects}`;
  if (drive?.bay == null)
    return {
      sentence: `This is ${serial}; the step is about ${expects}.`,
      back: `Put it aside and take ${right}. If the plan has changed, stop it and make a new one with this drive.`,
    };
  const pool = poolOfDrive(unit, serial);
  const isMember = pool !== undefined && membersOf(pool).includes(serial) && !pool.missing.includes(serial);
  const what = isMember
    ? `a working member of ${pool.name}`
    : pool?.spares.includes(serial)
      ? `a spare of ${pool.name}`
      : `the drive ${conditionWords(drive)} in that bay`;
  const sentence = `That is ${bayName(unit, drive.bay)}, ${what}${isMember ? afterLosing(unit, serial, at) : ''}.`;
  if (atPage)
    return {
      sentence,
      back: `Change nothing in the page for it. Choose the line that shows ${expects}: by its serial, not by its place in the list.`,
    };
  if (unit.power === 'off')
    return {
      sentence: `That is ${bayName(unit, drive.bay)}, ${what}. ${unit.name} is off: nothing is lost by a drive in your hand.`,
      back: `Put it back into ${bayName(unit, drive.bay)} before anything is switched on, and push until it clicks. Then take ${right}.`,
    };
  return {
    sentence,
    back: `Leave it in its bay. If it is out, put it back now, and say so here. Then take ${right}.`,
  };
}

function conditionWords({ condition }: DriveInUnit): string {
  return condition === 'well'
    ? 'standing'
    : condition === 'suspected'
      ? 'under suspicion'
      : condition === 'failed'
        ? 'that failed'
        : 'out of service';
}

/** What losing a drive would leave, as the end of a sentence; by the one model. */
function afterLosing(unit: UnitState, serial: string, at: string): string {
  const seen = preview(unit, { kind: 'drive-removed', serial }, at);
  const pool = poolOfDrive(unit, serial);
  if (isRefusal(seen) || !pool) return '';
  const margin = seen.marginAfter[pool.id] ?? 0;
  const others = pool.missing.length > 0 ? ` besides ${pool.missing.join(', ')}` : '';
  return margin < 0
    ? `. With it out${others}, ${pool.name} stops`
    : `. With it out${others}, ${pool.name} can lose ${margin === 0 ? 'none' : String(margin)} more`;
}

/** What the drive in hand is against the member it is to take over from. */
export function interlocksOfFit(
  unit: UnitState,
  member: string,
  drive: { readonly serial: string; readonly bytes: number; readonly media?: string },
): Interlock[] {
  const needs = neededBytes(unit, member);
  const pool = poolOfDrive(unit, member);
  const found: Interlock[] = [];
  if (drive.bytes < needs)
    found.push({
      kind: 'interlock',
      code: 'too-small',
      sentence: `${tooSmallWords(drive.serial, drive.bytes, needs)} The label may say the same; the unit will not rebuild onto it.`,
      back: `Take another drive of at least ${formatExactBytes(needs)} bytes. Nothing is lost by waiting: leave everything as it is.`,
      serial: drive.serial,
      mayOverride: false,
    });
  if (drive.media === 'shingled' && pool && (factsOf(pool.scheme).redundancy ?? 0) > 0)
    found.push({
      kind: 'interlock',
      code: 'shingled',
      sentence: `${drive.serial} is shingled: under a rebuild it stalls for minutes, and units drop it as failed.`,
      back: 'Take a conventional drive. The data sheet says which it is, the label does not.',
      serial: drive.serial,
      mayOverride: true,
    });
  return found;
}

/** Hazards that stop a step. A margin that falls once, as planned, does not: it is said before, with the serial. */
export function interlocksOfHazards(unit: UnitState, hazards: readonly Hazard[]): Interlock[] {
  return hazards.flatMap(({ code, sentence, serials }): Interlock[] => {
    if (code !== 'data-lost' && code !== 'second-out' && code !== 'interrupts-work') return [];
    const serial = serials[0] ?? '';
    const back =
      code === 'interrupts-work'
        ? 'Leave it running, and wait until it is done. Enter what percent it shows; the plan goes on from there.'
        : waitFor(unit, serial);
    return [{ kind: 'interlock', code, sentence, back, serial, mayOverride: true }];
  });
}

function waitFor(unit: UnitState, serial: string): string {
  const pool = poolOfDrive(unit, serial);
  const thinned = pool && marginOfPool(pool) < fullMarginOfPool(pool);
  return thinned
    ? `Leave it where it is. ${pool.missing.join(', ')} must be rebuilt first; until then ${serial} still carries the data.`
    : unit.cache.includes(serial)
      ? 'Leave it where it is. Switch the cache off on the unit’s own page, wait until it says that it has emptied, and record it here.'
      : 'Leave it where it is. This pool has no protection: copy its data off first, and prove the copy.';
}
