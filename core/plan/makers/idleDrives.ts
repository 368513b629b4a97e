import { bayName, BayName } from '../../unit/bayName';
import { idleBays } from '../../unit/poolChanged';
import { driveInBay, type UnitState } from '../../unit/state';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanDraft } from './draftPlan';

/** Drives that stand in a unit and that nothing has: stock, with which a pool is made, grown or changed. */

/** Bays of idle drives that show nothing: what a plan may take. */
export function idleAndWell(unit: UnitState): readonly string[] {
  return idleBays(unit).filter((bay) => driveInBay(unit, bay)?.sick === undefined);
}

/** Why a bay that was named has no idle drive to build on; `undefined` where all of them do. */
export function whyNotIdle(unit: UnitState, bays: readonly string[]): Refusal | undefined {
  const idle = idleBays(unit);
  const stray = bays.find((bay) => !idle.includes(bay));
  if (stray !== undefined)
    return refusal('not-idle', `What stands in ${bayName(unit, stray)} is not idle, or does not work.`, '/idle');
  const sick = bays.find((bay) => driveInBay(unit, bay)?.sick !== undefined);
  return sick === undefined
    ? undefined
    : refusal(
        'sick-drive',
        `${BayName(unit, sick)} (${driveInBay(unit, sick)?.serial ?? ''}) shows signs: it is no drive to build on.`,
        '/idle',
      );
}

/** "bay 3 (QH4-…)", by serial: an idle drive is chosen by it. */
export function idleWords(unit: UnitState, bays: readonly string[]): string {
  return bays.map((bay) => `${bayName(unit, bay)} (${driveInBay(unit, bay)?.serial ?? ''})`).join(', ');
}

/** What stands idle and was not named, for whoever is told that drives are lacking. */
export function idleHint(unit: UnitState, named: readonly string[] = []): string {
  const idle = idleAndWell(unit).filter((bay) => !named.includes(bay));
  return idle.length === 0
    ? ''
    : ` ${idle.length === 1 ? 'One stands' : `${String(idle.length)} stand`} idle: ${idleWords(unit, idle)}.`;
}

/** Adds the look at idle drives before they are taken: free by the unit's page, and nothing on them needed. */
export function idleSeen({ then }: PlanDraft, unit: UnitState, bays: readonly string[]): void {
  if (bays.length === 0) return;
  then({
    id: 'idle-seen',
    title: `See that its page shows ${idleWords(unit, bays)} as free`,
    why: `Compare the serials. ${bays.length === 1 ? 'It is' : 'They are'} erased: make sure that nothing on ${bays.length === 1 ? 'it' : 'them'} is still needed.`,
  });
}
