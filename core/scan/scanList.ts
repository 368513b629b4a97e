import { packedOf, type Units } from '../plan/engine/carrying';
import { expectedSerial } from '../plan/engine/expectedSerial';
import type { PlanStep } from '../plan/plan';
import { cacheSlotsOf, freeSlots, freeBays, type UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';

/** A bay a drive is read for, with the one that is expected there. */
export interface ScanBay {
  readonly bay: string;
  readonly expects?: string;
}

/** Drives that are read one after another: for which bays, and which drives are meant. */
export interface ScanList {
  readonly unit: UnitState;
  /** Into bays, or out of them. */
  readonly way: 'in' | 'out';
  readonly bays: readonly ScanBay[];
  /** Drives of which any may go into any of the bays; none where each bay says its own. */
  readonly anyOf: readonly string[];
  /** The step it is read for, and the units its plan acts on. */
  readonly step?: PlanStep;
  readonly units?: Units;
}

/** What a step of a plan asks to be read; `null` where it asks for no drive. `units` are those the plan acts on. */
export function scanListOf(unit: UnitState, step: PlanStep, units: Units = {}): ScanList | null {
  const { asks, does } = step;
  const way = does.some(({ kind }) => kind === 'pull-drive') ? 'out' : 'in';
  const anyOf = does.flatMap((one) => (one.kind === 'carry-in' && one.anyBay === true ? [one.serial] : []));
  if (asks.kind === 'scans') return { unit, way, bays: asks.bays, anyOf, step, units };
  const bay = step.bay ?? does.flatMap((one) => bayOf(one))[0];
  if (asks.kind !== 'serial' || bay === undefined) return null;
  const carried = does.find((one) => one.kind === 'carry-in');
  const packed = carried?.kind === 'carry-in' ? packedOf(units, carried.from) : null;
  const expects = expectedSerial(unit, step) ?? (packed && !isRefusal(packed) && carried ? carried.serial : undefined);
  return { unit, way, bays: [{ bay, ...(expects === undefined ? {} : { expects }) }], anyOf, step, units };
}

function bayOf(one: PlanStep['does'][number]): readonly string[] {
  if (one.kind === 'fit-drive' || one.kind === 'take-drive') return [one.drive.bay];
  return one.kind === 'carry-in' || one.kind === 'start-rebuild' ? [one.bay] : [];
}

/** Drives put into the free bays of a unit, as they come: from the bay `from` on, then from the first. */
export function freeBayList(unit: UnitState, from?: string): ScanList {
  const free = from !== undefined && cacheSlotsOf(unit).includes(from) ? freeSlots(unit) : freeBays(unit);
  const at = from === undefined ? 0 : Math.max(0, free.indexOf(from));
  const bays = [...free.slice(at), ...free.slice(0, at)].map((bay) => ({ bay }));
  return { unit, way: 'in', bays, anyOf: [], ...(bays.length === 0 ? {} : { step: putIn(bays) }) };
}

/** Drives of whatever size put into these bays: judged as a plan judges one that is fitted. */
function putIn(bays: readonly ScanBay[]): PlanStep {
  return {
    id: 'put-in',
    kind: 'act',
    part: 'Drives',
    title: 'Put drives in',
    why: 'They stand idle until a pool is made of them.',
    asks: { kind: 'scans', bays: bays.map(({ bay }) => ({ bay })) },
    after: [],
    does: bays.map(({ bay }) => ({ kind: 'fit-drive', drive: { bay, bytes: 1, basis: 'exact' } })),
  };
}

/** The list with what was read for each bay so far. */
export type ScansRead = Readonly<Record<string, string>>;

/** Bays of a list for which nothing was read yet. */
export function openBays({ bays }: ScanList, read: ScansRead): readonly ScanBay[] {
  return bays.filter(({ bay }) => !Object.hasOwn(read, bay));
}
