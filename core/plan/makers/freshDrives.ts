import { formatBytes } from '../../quantity/formatBytes';
import { BayName } from '../../unit/bayName';
import { freeBays, type UnitState } from '../../unit/state';
import { refusal, type Refusal } from '../../value/refusal';
import type { ReplaceWish } from './replace';
import type { PlanDraft } from './draftPlan';
import { driveListed } from './driveListed';
import { fit, powerDown, powerUp, type NewDrive } from './handsOnDrive';

/** Drives of one kind that come into free bays: laid out, fitted one by one, and seen beforehand as if they were in. */

/** "8 TB" as it was said, or by its bytes. */
export function sizeOf({ label, bytes }: Pick<NewDrive, 'label' | 'bytes'>): string {
  return label ?? formatBytes(bytes);
}

/** "the new drive", "the 3 new drives". */
export function theNew(count: number): string {
  return count === 1 ? 'the new drive' : `the ${String(count)} new drives`;
}

/** Why a bay that was named takes no drive; `undefined` where all of them do. */
export function whyNotFree(unit: UnitState, bays: readonly string[], pointer: string): Refusal | undefined {
  const free = freeBays(unit);
  const taken = bays.find((bay) => !free.includes(bay));
  return taken === undefined
    ? undefined
    : refusal('bay-occupied', `${BayName(unit, taken)} is not free, or not there.`, pointer);
}

/** The unit with the drives in, to see before anything is touched what it would make of them. */
export function withFreshDrives(
  unit: UnitState,
  bays: readonly string[],
  { serial: _one, ...drive }: NewDrive,
): UnitState {
  const fresh = bays.map((bay) => {
    const serial = `new in ${bay}`;
    const here = { bay, condition: 'well' as const, insertedAt: unit.registeredAt };
    return [serial, { kind: 'drive-in-unit' as const, ...drive, serial, ...here }] as const;
  });
  return { ...unit, drives: { ...unit.drives, ...Object.fromEntries(fresh) } };
}

/** Adds the step in which what goes in is laid out and looked at. */
export function layOut(
  { then }: PlanDraft,
  drive: NewDrive,
  count: number,
  tested: ReplaceWish['tested'],
  erased = 'what is added is erased',
): void {
  then({
    id: 'new-drives',
    title: `Lay out ${count === 1 ? `the drive of ${sizeOf(drive)}` : `${String(count)} drives of ${sizeOf(drive)}`}`,
    why: `${driveListed(drive, tested)} Make sure that nothing on ${count === 1 ? 'it' : 'them'} is still needed: ${erased}.`,
  });
}

/** Adds the steps that fit such a drive in each of these bays, by its serial; on a cold family with the unit off. */
export function fitEach(draft: PlanDraft, unit: UnitState, bays: readonly string[], drive: NewDrive): void {
  if (bays.length === 0) return;
  draft.under('At the shelf');
  powerDown(draft, unit);
  for (const [i, bay] of bays.entries())
    fit(draft, unit, { bay, suffix: bays.length === 1 ? '' : `-${String(i + 1)}` }, drive);
  powerUp(draft, unit, {});
}
