import { formatBytes } from '../../quantity/formatBytes';
import { BayName } from '../../unit/bayName';
import { freeBays, type UnitState } from '../../unit/state';
import { refusal, type Refusal } from '../../value/refusal';
import type { Scheme } from '../../layout/scheme';
import type { Intention } from '../plan';
import type { PlanDraft } from './draftPlan';
import { fit, powerDown, powerUp, type NewDrive } from './handsOnDrive';

type LaidOutFor = Extract<Intention, { kind: 'lay-out' }>['use'];

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

/** Adds the step in which what goes in is laid out and looked at. */
export function layOut(
  { then }: PlanDraft,
  drive: NewDrive,
  {
    why,
    idle,
    ...to
  }: {
    readonly pool: string;
    readonly use: LaidOutFor;
    readonly to?: Scheme;
    readonly bays: readonly string[];
    readonly idle?: readonly string[];
    readonly why: string;
  },
): void {
  const { length: count } = to.bays;
  const { bytes, basis, label } = drive;
  then({
    id: 'new-drives',
    kind: 'record',
    title: `Lay out ${count === 1 ? `the drive of ${sizeOf(drive)}` : `${String(count)} drives of ${sizeOf(drive)}`}, and read ${count === 1 ? 'it' : 'each'}`,
    why: `Serial and size off the drive itself, now, where a wrong one costs nothing. ${why}`,
    asks: { kind: 'drives', count },
    does: [
      {
        kind: 'lay-out',
        ...to,
        bays: [...to.bays],
        ...(idle === undefined ? {} : { idle: [...idle] }),
        drive: { bytes, basis, ...(label === undefined ? {} : { label }) },
      },
    ],
  });
}

/** What is said of drives whose contents go. */
export function erasesWords(count: number, erased = 'what is added is erased'): string {
  return `Make sure that nothing on ${count === 1 ? 'it' : 'them'} is still needed: ${erased}.`;
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
