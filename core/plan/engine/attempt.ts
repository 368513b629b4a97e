import type { UnitEvent } from '../../unit/event';
import { preview, type Hazard } from '../../unit/preview';
import type { UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import { serialKey } from '../../drive/serial';
import { BayName, bayName } from '../../unit/bayName';
import { EVIDENCE_WORDS, eventsOfStep } from './eventsOfStep';
import { aloneAt } from './aloneAt';
import { carryingIn, interlocksOfArrival, interlocksOfCarry, interlocksOfMissing, type Units } from './carrying';
import { interlocksOfLastCopy, interlocksOfProof } from './copying';
import { interlocksOfCache } from './cacheEmptied';
import { interlocksOfCopy } from './copyGiven';
import { interlocksOfFates } from './fates';
import { interlocksOfKeeping } from './keeping';
import { interlocksOfSpace } from './spaceShown';
import { interlocksOfCount } from './counted';
import { fitting, takingOver } from './fitting';
import { interlocksOfHand } from './driveInHand';
import { interlocksOfEvidence, interlocksOfFit, interlocksOfHazards, type Interlock } from './interlock';
import { interlocksOfWait } from './pageSays';
import { driveFacts } from './driveFacts';
import { serialMeant, type KnownDrive, type Knows } from './knownDrive';
import { interlocksOfLaidOut, interlocksOfSize } from './laidOut';
import { interlocksOfStock } from './stockTaken';
import { interlocksOfTowards } from './towardsPool';
import type { PlanStep, StepEvidence } from '../plan';

/** What a step would do with the evidence in hand, and what stops it. */
export interface Attempt {
  readonly kind: 'attempt';
  readonly events: readonly UnitEvent[];
  readonly after: UnitState;
  /** Margin by pool, after it. */
  readonly margin: Readonly<Record<string, number>>;
  readonly hazards: readonly Hazard[];
  /** Empty: it may be done. */
  readonly interlocks: readonly Interlock[];
}

/** What is known around the unit a step is tried on. */
export interface Around {
  /** What is recorded of the drive in hand. */
  readonly knows?: Knows | undefined;
  /** Bytes used by pool, as last read. */
  readonly used?: Readonly<Record<string, number>> | undefined;
  /** The units the plan acts on, as they are before the step. */
  readonly units?: Units;
}

/**
 * Tries a step on a state with the evidence in hand. The planner asks with the evidence it expects, the runner with
 * what the person gave, on the server and offline; there is no other way from a step to the ledger.
 *
 * @param at ISO 8601
 * @returns a refusal for what cannot have happened or is no evidence; interlocks for what must not be done
 */
export function attempt(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  around: Around = {},
): Attempt | Refusal {
  if (evidence.kind === 'scans') return attemptScans(unit, step, evidence, at, around);
  const { knows, used, units = {} } = around;
  const onRecord = evidence.kind === 'serial' ? knows?.(evidence.serial) : undefined;
  const short = whyTooShort(unit, step, evidence, onRecord);
  if (short) return short;
  const read = evidence.kind === 'serial' ? evidence.drive : undefined;
  const known =
    onRecord ??
    (evidence.kind === 'serial' && read ? { serial: serialKey(evidence.serial), facts: driveFacts(read) } : undefined);
  const events = eventsOfStep(unit, step, evidence, at, known, units);
  if (isRefusal(events)) return events;
  const interlocks = [
    // A carried drive is judged by what was packed.
    ...(carryingIn(step) ? [] : interlocksOfEvidence(unit, step, evidence, at, known)),
    ...interlocksOfHand(unit, step, evidence, at, known),
    ...(evidence.kind === 'serial' && read ? interlocksOfSize(evidence.serial, read, onRecord) : []),
    ...interlocksOfLaidOut(unit, step, evidence, at, knows),
  ];
  // One that must not go in is told first.
  const unread = interlocks.every(({ mayOverride }) => mayOverride)
    ? whySizeUnread(unit, step, evidence, onRecord)
    : undefined;
  if (unread) return unread;
  interlocks.push(
    ...interlocksOfWait(unit, step, evidence, at, used),
    ...interlocksOfCount(step, evidence),
    ...interlocksOfCarry(unit, step, evidence, units),
    ...interlocksOfArrival(unit, step, evidence),
    ...interlocksOfProof(step, evidence),
    ...interlocksOfStock(step, evidence, units),
    ...interlocksOfCopy(unit, step, evidence, at),
    ...interlocksOfSpace(unit, step, evidence),
    ...interlocksOfFates(step, evidence),
    ...interlocksOfKeeping(unit, step, at),
    ...interlocksOfCache(step, evidence),
  );
  const taking = takingOver(step);
  if (taking?.kind === 'take-drive' && evidence.kind === 'serial')
    interlocks.push(
      ...interlocksOfFit(unit, taking.for, {
        ...taking.drive,
        ...known?.facts,
        serial: serialMeant(unit, evidence.serial, taking.drive.serial, known),
      }),
    );
  // Nothing further is tried with a drive that a repair would erase: no unit does that and keeps its pool.
  if (interlocks.some(({ mayOverride }) => !mayOverride)) return tried(unit, [], [], {}, interlocks);
  let state = unit;
  let margin: Readonly<Record<string, number>> = {};
  const hazards: Hazard[] = [];
  for (const event of events) {
    const member = fitsFor(step, event);
    if (member !== undefined && event.kind === 'drive-inserted') {
      interlocks.push(...interlocksOfFit(state, member, event.drive));
      if (interlocks.some(({ code }) => code === 'too-small')) return tried(unit, [], hazards, margin, interlocks);
    }
    interlocks.push(...interlocksOfLastCopy(step.does[0]?.unit, state, event, units, at));
    const seen = preview(state, event, at);
    if (isRefusal(seen)) return interlocks.length > 0 ? tried(unit, [], hazards, margin, interlocks) : seen;
    // What the wrong drive would cost is said where it is named.
    interlocks.push(
      ...interlocksOfHazards(state, seen.hazards).filter(
        (lock) => !interlocks.some(({ code, serial }) => code === 'wrong-serial' && serial === lock.serial),
      ),
    );
    state = seen.after;
    margin = seen.marginAfter;
    hazards.push(...seen.hazards);
    if (event.kind === 'drive-inserted') interlocks.push(...interlocksOfTowards(state, step, event.bay));
  }
  return tried(state, events, hazards, margin, interlocks);
}

/** One drive after another into its bay: each is judged as if it were fitted alone. */
function attemptScans(
  unit: UnitState,
  step: PlanStep,
  evidence: Extract<StepEvidence, { kind: 'scans' }>,
  at: string,
  around: Around,
): Attempt | Refusal {
  const wrong = whyNotScans(unit, step, evidence);
  if (wrong) return wrong;
  let [state, margin]: [UnitState, Attempt['margin']] = [unit, {}];
  const events: UnitEvent[] = [];
  const hazards: Hazard[] = [];
  const interlocks: Interlock[] = [...interlocksOfMissing(step, evidence, around.units)];
  let unread: Refusal | undefined;
  for (const [i, { bay, serial, drive, instead }] of evidence.scans.entries()) {
    const alone: StepEvidence = { kind: 'serial', serial, ...(drive === undefined ? {} : { drive }) };
    const seen = attempt(state, aloneAt(step, bay, instead), alone, at, around);
    if (isRefusal(seen)) {
      const no: Refusal = {
        ...seen,
        sentence: `${BayName(unit, bay)}: ${seen.sentence}`,
        pointer: `/evidence/scans/${String(i)}/serial`,
      };
      if (no.code !== 'size-unread') return no;
      unread ??= no;
      continue;
    }
    interlocks.push(
      ...seen.interlocks.map((lock) => ({ ...lock, sentence: `${BayName(unit, bay)}: ${lock.sentence}` })),
    );
    if (seen.interlocks.some(({ mayOverride }) => !mayOverride)) continue;
    [state, margin] = [seen.after, seen.margin];
    events.push(...seen.events);
    hazards.push(...seen.hazards);
  }
  // A drive that must not go in at all is told first.
  return unread && interlocks.every(({ mayOverride }) => mayOverride)
    ? unread
    : tried(state, events, hazards, margin, interlocks);
}

const MOST_NAMED = 6;

/** Every bay of the list once, every drive once. */
function whyNotScans(
  unit: UnitState,
  { asks, does }: PlanStep,
  { scans, missing = [] }: Extract<StepEvidence, { kind: 'scans' }>,
): Refusal | undefined {
  if (asks.kind !== 'scans')
    return refusal('evidence-kind', `This step asks for ${EVIDENCE_WORDS[asks.kind]}.`, '/evidence/kind');
  for (const [i, { bay, serial, instead }] of scans.entries()) {
    const here = `/evidence/scans/${String(i)}`;
    if (instead !== undefined && !does.some((one) => one.kind === 'fit-drive' && one.drive.bay === bay))
      return refusal('not-instead', 'Only where a drive is fitted another comes instead of it.', `${here}/instead`);
    if (!asks.bays.some((one) => one.bay === bay))
      return refusal('bay-unknown', `No drive is planned for ${bayName(unit, bay)} in this step.`, `${here}/bay`);
    const twice = scans.slice(0, i).find((one) => one.bay === bay || serialKey(one.serial) === serialKey(serial));
    if (twice)
      return refusal('scanned-twice', `${twice.bay === bay ? BayName(unit, bay) : serial} is in the list twice.`, here);
  }
  for (const [i, { bay, serial }] of missing.entries()) {
    const here = `/evidence/missing/${String(i)}`;
    if (!asks.bays.some((one) => one.bay === bay) || scans.some((one) => one.bay === bay))
      return refusal('bay-unknown', `No drive is missing for ${bayName(unit, bay)} in this step.`, `${here}/bay`);
    if (!does.some((one) => one.kind === 'carry-in' && serialKey(one.serial) === serialKey(serial)))
      return refusal(
        'not-carried',
        `${serial} is none of the drives that are carried: only of those one may be missing. Otherwise stop this plan, and make one with the drives that are there.`,
        `${here}/serial`,
      );
    if ([...scans, ...missing.slice(0, i)].some((one) => serialKey(one.serial) === serialKey(serial)))
      return refusal('scanned-twice', `${serial} is in the list twice.`, `${here}/serial`);
  }
  const without = asks.bays.filter(({ bay }) => ![...scans, ...missing].some((one) => one.bay === bay));
  if (without.length === 0) return undefined;
  return refusal(
    'not-scanned',
    `Not read yet: ${without
      .slice(0, MOST_NAMED)
      .map(({ bay }) => bayName(unit, bay))
      .join(', ')}${without.length > MOST_NAMED ? ` and ${String(without.length - MOST_NAMED)} more` : ''}.`,
    '/evidence/scans',
  );
}

function tried(
  after: UnitState,
  events: readonly UnitEvent[],
  hazards: readonly Hazard[],
  margin: Attempt['margin'],
  interlocks: readonly Interlock[],
): Attempt {
  return Object.freeze({ kind: 'attempt', events, after, margin, hazards, interlocks });
}

/** The last four are enough of a drive that is known; of one that nobody knows they would become its name. */
function whyTooShort(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  known: KnownDrive | undefined,
): Refusal | undefined {
  if (
    evidence.kind !== 'serial' ||
    step.asks.kind !== 'serial' ||
    step.asks.expects !== undefined ||
    known ||
    !fitting(step)
  )
    return undefined;
  const serial = serialMeant(unit, evidence.serial);
  return entryOf(unit.drives, serial) || serial.length > SHORT
    ? undefined
    : refusal(
        'serial-short',
        `Nobody knows a drive that ends in ${serial} yet: read its whole serial, once.`,
        '/evidence/serial',
      );
}

const SHORT = 4;

/** A drive of a size nobody read and nobody knows is not as large as was planned: it is not known. */
function whySizeUnread(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  known: KnownDrive | undefined,
): Refusal | undefined {
  const taking = fitting(step);
  if (evidence.kind !== 'serial' || evidence.drive || known || !taking) return undefined;
  const serial = serialMeant(unit, evidence.serial, taking.drive.serial);
  // Of one that the plan names by its serial it says the size as well.
  return entryOf(unit.drives, serial) || serial === taking.drive.serial
    ? undefined
    : refusal(
        'size-unread',
        `Nobody knows yet how large ${serial} is: read the size printed on it.`,
        '/evidence/drive',
      );
}

function fitsFor({ does }: PlanStep, event: UnitEvent): string | undefined {
  if (event.kind !== 'drive-inserted') return undefined;
  return does.flatMap((one) => (one.kind === 'fit-drive' && one.drive.bay === event.bay ? (one.for ?? []) : []))[0];
}
