import { whichSerial } from '../../drive/whichSerial';
import { serialKey } from '../../drive/serial';
import { bayName } from '../../unit/bayName';
import type { UnitEvent } from '../../unit/event';
import { startsWithout } from '../../unit/startsWithout';
import { poolOfDrive, type DriveInUnit, type Packed, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { Intention, PlanStep, StepEvidence } from '../plan';
import type { Interlock } from './interlock';

/** Drives carried from one unit to another, or back: which of them is in hand, where it goes, and what the other unit makes of it. */

type CarryIn = Extract<Intention, { kind: 'carry-in' }>;
/** The states of the units a plan acts on, by their ids. */
export type Units = Readonly<Record<string, UnitState>>;

/** The step's carried drive, where it fits one. */
export function carryingIn({ does }: Pick<PlanStep, 'does'>): CarryIn | undefined {
  return does.find((one): one is CarryIn => one.kind === 'carry-in');
}

/** What was packed of the unit a drive comes from; a refusal where that unit is not packed. */
export function packedOf(units: Units, from: string): (Packed & { readonly unit: UnitState }) | Refusal {
  const unit = entryOf(units, from);
  return unit?.packed
    ? { ...unit.packed, unit }
    : refusal('not-packed', 'Nothing was packed there: its drives are shut down and taken out first.', '/step');
}

/** The carried drive that was read; what was typed, where it is none of them. */
export function carriedSerial({ bays }: Packed, typed: string): string {
  return whichSerial(typed, Object.keys(bays)) ?? serialKey(typed);
}

/** The drive goes into its bay, with the pool it is carried with. */
export function eventsOfCarryIn(
  { bay, from, serial: planned }: CarryIn,
  evidence: StepEvidence,
  units: Units,
): UnitEvent[] | Refusal {
  const packed = packedOf(units, from);
  if ('code' in packed) return packed;
  const serial = evidence.kind === 'serial' ? carriedSerial(packed, evidence.serial) : planned;
  const drive = entryOf(packed.unit.drives, serial);
  // Which stop it is stands with the interlocks.
  if (!drive || !Object.hasOwn(packed.bays, serial)) return [];
  const pool = poolOfDrive(packed.unit, serial);
  return [
    {
      kind: 'drive-inserted',
      bay,
      drive: describedAs(drive),
      ...(pool ? { carries: { unit: from, unitName: packed.unit.name, pool: pool.id, name: pool.name } } : {}),
    },
  ];
}

/** What a drive is, without what it is in its unit. */
export function describedAs({
  serial,
  printed,
  bytes,
  basis,
  label,
  model,
  media,
  priceCents,
  form,
  lot,
  boughtOn,
  warrantyUntil,
}: DriveInUnit): Extract<UnitEvent, { kind: 'drive-inserted' }>['drive'] {
  const all = { serial, printed, bytes, basis, label, model, media, priceCents, form, lot, boughtOn, warrantyUntil };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined)) as ReturnType<
    typeof describedAs
  >;
}

/** What stops a carried drive from going into the bay: it is none of those that were packed, or belongs into another. */
export function interlocksOfCarry(unit: UnitState, step: PlanStep, evidence: StepEvidence, units: Units): Interlock[] {
  const one = carryingIn(step);
  if (!one || evidence.kind !== 'serial') return [];
  const packed = packedOf(units, one.from);
  if ('code' in packed) return [];
  const serial = carriedSerial(packed, evidence.serial);
  const stop = (sentence: string, back: string): Interlock[] => [
    { kind: 'interlock', code: 'wrong-serial', sentence, back, serial, mayOverride: false },
  ];
  const where = bayName(unit, one.bay);
  if (!Object.hasOwn(packed.bays, serial))
    return stop(
      `${serial} is none of the drives that were taken out of ${packed.unit.name}.`,
      `Take it out of ${where} and put it aside: nothing foreign goes in before everything that came along is seen. Nothing is lost while both units are off.`,
    );
  if (one.anyBay === true || serial === one.serial) return [];
  return stop(
    `${serial} stood in ${bayName(packed.unit, packed.bays[serial] ?? '')}; ${where} is for ${one.serial}.`,
    `Both units are off: nothing has happened. Take ${serial} out again, and put every drive into the bay of the same number before anything is switched on.`,
  );
}

/** Drives that did not come along: a pool that cannot start without them is not started. */
export function interlocksOfMissing(
  { does }: PlanStep,
  { missing = [] }: Extract<StepEvidence, { kind: 'scans' }>,
  units: Units = {},
): Interlock[] {
  const from = does.flatMap((one) => (one.kind === 'carry-in' ? one.from : []))[0];
  const packed = from === undefined ? undefined : packedOf(units, from);
  if (missing.length === 0 || !packed || 'code' in packed) return [];
  const serials = missing.map(({ serial }) => carriedSerial(packed, serial));
  return startsWithout(packed.unit, serials)
    .filter(({ margin }) => margin < 0)
    .map(({ name, loses }) => ({
      kind: 'interlock',
      code: 'drives-missing',
      sentence:
        loses === 'pool'
          ? `${name} does not start without ${serials.join(', ')}.`
          : `What is on ${serials.join(', ')} is in no other drive of ${name}.`,
      back: `Leave both units off: nothing is lost so long. Look where ${serials.length === 1 ? 'it' : 'each'} was put down; its own page says who had it last. Without it, carry the others back.`,
      serial: serials[0] ?? '',
      mayOverride: false,
    }));
}

/** The step at which a unit is looked at after drives were carried into it, and what it shows decides. */
export function looksAtArrival({ does }: Pick<PlanStep, 'does'>): boolean {
  return does.some(({ kind }) => kind === 'arrive' || kind === 'unpack');
}

/** What a unit may show after carried drives went into it; only the first is taken for arrived. */
export const ARRIVALS = [
  'It shows every pool as it was',
  'It asks to erase or to initialise',
  'It shows something else, or less than there was',
] as const;

/** What stops an arrival: the unit asks to erase what was carried, or shows something else than came along. */
export function interlocksOfArrival(unit: UnitState, { does }: PlanStep, evidence: StepEvidence): Interlock[] {
  if (evidence.kind !== 'choice' || evidence.choice === ARRIVALS[0]) return [];
  const stop = (code: Interlock['code'], sentence: string, back: string): Interlock[] => [
    { kind: 'interlock', code, sentence, back, serial: '', mayOverride: false },
  ];
  const isErasing = evidence.choice === ARRIVALS[1];
  if (does.some(({ kind }) => kind === 'unpack'))
    return isErasing
      ? stop(
          'asks-to-erase',
          `${unit.name} asks to erase its own drives: it does not find them as it left them.`,
          `Answer no, and switch it off. Look whether every drive is in the bay it had, fully home${stickWords(unit)}; start it once more. If it asks again, leave it off and open the rescue desk: what was not written over is still there.`,
        )
      : [];
  if (!does.some(({ kind }) => kind === 'arrive')) return [];
  return isErasing
    ? stop(
        'asks-to-erase',
        `${unit.name} would erase what was carried: it does not know these drives as its own.`,
        'Answer no, and close its page. Nothing is lost so far. Switch it off, and carry the drives back into the bays they came from; then the data is copied over the network instead. If somebody has answered yes already: switch it off now, write nothing more, and open the rescue desk.',
      )
    : stop(
        'not-as-it-was',
        `${unit.name} does not show what stood in the old unit.`,
        `Start no repair, assign no drive by hand, and answer no to whatever it asks. Switch it off, look whether every tray is fully home${stickWords(unit)}; then start it once more. If it shows the same again, carry the drives back. If it shows everything but one drive that died: record on its page which, and say here that it shows every pool.`,
      );
}

function stickWords({ profile }: UnitState): string {
  return profile.roaming.flashStick
    ? ' and the flash stick is in: without it, it finds no roles'
    : ' and in the bay of its number';
}
