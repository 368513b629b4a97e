import { bayName } from '../../unit/bayName';
import { isFitting, demandOf } from '../../upkeep/spareCoverage';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { UnitState } from '../../unit/state';
import { copyChecked } from './copyChecked';
import { reckonedOf, waitFor } from './reckoned';
import { draftPlan } from './draftPlan';
import { fit, powerUp, pull, type NewDrive } from './handsOnDrive';
import type { PlanBody } from '../plan';
import { rebuildOnto } from '../../rebuild/rebuildOnto';
import {
  bayLeftBy,
  memberToReplace,
  newDriveChecked,
  nextSpare,
  oldDrivesFate,
  verified,
  type ReplaceWish,
} from './replace';

export interface SpareInWish extends Pick<ReplaceWish, 'usedShare' | 'tested'> {
  /** The member that went, and the spare of its pool that stands in. */
  readonly serial: string;
  readonly spare: string;
  /** The drive that becomes the next spare. */
  readonly drive: NewDrive;
}

/** The plan when a hot spare takes over: it is rebuilt first, and only then hands go to the drive that failed. */
export function spareInPlan(unit: UnitState, wish: SpareInWish): PlanBody | Refusal {
  const found = memberToReplace(unit, wish.serial);
  if ('code' in found) return found;
  const { drive: old, pool } = found;
  const running = Object.values(unit.jobs).find(({ replaces }) => replaces === old.serial);
  const spare = entryOf(unit.drives, wish.spare);
  if (!pool.missing.includes(old.serial))
    return refusal(
      'not-missing',
      `${old.serial} is not missing from ${pool.name}: nothing has to take over.`,
      '/serial',
    );
  if (spare?.bay == null || (!pool.spares.includes(wish.spare) && running?.onto !== wish.spare))
    return refusal('not-a-spare', `${wish.spare} is not a spare of ${pool.name}.`, '/spare');
  if (!isFitting(demandOf(unit, old, pool), spare))
    return refusal('spare-too-small', `${wish.spare} does not fit: it is too small, or of another kind.`, '/spare');
  const bay = bayLeftBy(unit, old) ?? '';
  const estimate = rebuildOnto(unit, pool, old.serial, spare, wish.usedShare);
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  then(copyChecked(unit, pool.id));
  under('Wait');
  if (!running)
    then({
      id: 'took-over',
      kind: 'record',
      title: `See that the spare in ${bayName(unit, spare.bay)} has taken over: read its serial in the unit’s page`,
      why: `The rebuild onto it begins by itself. ${old.serial} stays where it is: nobody touches a bay before this is done.`,
      asks: { kind: 'serial', expects: wish.spare },
      does: [{ kind: 'take-over', pool: pool.id, replaces: old.serial, spare: wish.spare }],
      bay: spare.bay,
    });
  then({
    id: 'wait',
    kind: 'wait',
    title: 'Wait for the rebuild onto the spare',
    ...waitFor(
      reckonedOf(estimate),
      'Pull nothing, switch nothing off. Enter what percent it shows whenever you pass by.',
    ),
    caution: 'Tick when the unit says it is done, not when the time is up.',
    does: [{ kind: 'finish-rebuild', pool: pool.id, replaces: old.serial, bay: spare.bay, task: 'rebuild' }],
  });
  verified(draft, pool.name);
  under('At the shelf');
  newDriveChecked(draft, unit, spare, wish);
  pull(draft, unit, { serial: old.serial, bay });
  fit(draft, unit, { bay }, wish.drive, wish.spare);
  powerUp(draft, unit, {});
  then({
    id: 'spare-again',
    kind: 'act',
    title: `Make the new drive in ${bayName(unit, bay)} the spare of ${pool.name}`,
    why: 'In some families the data moves back onto it by itself; then it is a member, and the old spare is free again: look at the unit’s page, and record what it shows.',
    does: [{ kind: 'assign-spare', pool: pool.id, bay }],
    bay,
  });
  under('Afterwards');
  oldDrivesFate(draft, old);
  nextSpare(draft, old);
  return { job: 'spare-in', title: `A spare stands in for ${bayName(unit, bay)} of ${unit.name}`, steps: draft.steps };
}
