import type { UnitEvent } from '../../unit/event';
import { preview, type Hazard } from '../../unit/preview';
import type { UnitState } from '../../unit/state';
import { own } from '../../value/own';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import { eventsOfStep } from './eventsOfStep';
import { interlocksOfHand, takingOver } from './driveInHand';
import { interlocksOfEvidence, interlocksOfFit, interlocksOfHazards, type Interlock } from './interlock';
import { interlocksOfWait } from './pageSays';
import { serialMeant, type KnownDrive } from './knownDrive';
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

/**
 * Tries a step on a state with the evidence in hand. The planner asks with the evidence it expects, the runner with
 * what the person gave, on the server and offline; there is no other way from a step to the ledger.
 *
 * @param at ISO 8601
 * @param known what is recorded of the drive whose serial was read, where that is more than the plan knew
 * @param used bytes used by pool, as last read
 * @returns a refusal for what cannot have happened or is no evidence; interlocks for what must not be done
 */
export function attempt(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  known?: KnownDrive,
  used?: Readonly<Record<string, number>>,
): Attempt | Refusal {
  const short = whyTooShort(unit, step, evidence, known);
  if (short) return short;
  const events = eventsOfStep(unit, step, evidence, known);
  if (isRefusal(events)) return events;
  const interlocks = [...interlocksOfEvidence(unit, step, evidence, at, known), ...interlocksOfHand(unit, step, evidence, at, known)];
  interlocks.push(...interlocksOfWait(unit, step, evidence, at, used));
  const taking = takingOver(step);
  if (taking?.kind === 'take-drive' && evidence.kind === 'serial')
    interlocks.push(
      ...interlocksOfFit(unit, taking.for, { ...taking.drive, ...known?.facts, serial: serialMeant(unit, evidence.serial, taking.drive.serial, known) }),
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
    const seen = preview(state, event, at);
    if (isRefusal(seen)) return interlocks.length > 0 ? tried(unit, [], hazards, margin, interlocks) : seen;
    // What the wrong drive would cost is said where it is named.
    interlocks.push(
      ...interlocksOfHazards(state, seen.hazards).filter((lock) => !interlocks.some(({ code, serial }) => code === 'wrong-serial' && serial === lock.serial)),
    );
    state = seen.after;
    margin = seen.marginAfter;
    hazards.push(...seen.hazards);
  }
  return tried(state, events, hazards, margin, interlocks);
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
function whyTooShort(unit: UnitState, step: PlanStep, evidence: StepEvidence, known: KnownDrive | undefined): Refusal | undefined {
  if (evidence.kind !== 'serial' || step.asks.kind !== 'serial' || step.asks.expects !== undefined || known || !takingOver(step)) return undefined;
  const serial = serialMeant(unit, evidence.serial);
  return own(unit.drives, serial) || serial.length > SHORT
    ? undefined
    : refusal('serial-short', `Nobody knows a drive that ends in ${serial} yet: read its whole serial, once.`, '/evidence/serial');
}

const SHORT = 4;

function fitsFor({ does }: PlanStep, event: UnitEvent): string | undefined {
  if (event.kind !== 'drive-inserted') return undefined;
  return does.flatMap((one) => (one.kind === 'fit-drive' && one.drive.bay === event.bay ? (one.for ?? []) : []))[0];
}
