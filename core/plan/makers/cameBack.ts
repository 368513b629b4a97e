import { bayName, BayName } from '../../unit/bayName';
import { refusal, type Refusal } from '../../value/refusal';
import type { UnitState } from '../../unit/state';
import { copyChecked } from './copyChecked';
import { reckonedOf } from './reckoned';
import { draftPlan } from './draftPlan';
import { fit, rebuild } from './handsOnDrive';
import type { PlanBody } from '../plan';
import { rebuildOnto } from '../../rebuild/rebuildOnto';
import { bayLeftBy, memberToReplace, verified, type ReplaceWish } from './replace';

export interface CameBackWish extends Pick<ReplaceWish, 'usedShare'> {
  /** The member that had dropped out. */
  readonly serial: string;
  /** What the unit shows: it has taken the drive back whole, or wants to rebuild onto it. */
  readonly how: 'whole' | 'rebuild';
}

/** The plan for a drive that dropped out and is there again: believed once, and watched. */
export function cameBackPlan(unit: UnitState, { serial, how, usedShare }: CameBackWish): PlanBody | Refusal {
  const found = memberToReplace(unit, serial);
  if ('code' in found) return found;
  const { drive, pool } = found;
  if (!pool.missing.includes(serial))
    return refusal('not-missing', `${serial} is not missing from ${pool.name}.`, '/serial');
  const bay = bayLeftBy(unit, drive) ?? '';
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  then(copyChecked(unit, pool.id));
  then({
    id: 'log',
    kind: 'record',
    title: `Read in the unit’s log why ${serial} dropped out`,
    why: 'A loose tray or a cable that was moved explains it once. Read or write errors do not go away: replace it instead.',
    asks: { kind: 'text', label: 'What the log says, and when' },
    does: [{ kind: 'note' }],
  });
  under('At the shelf');
  if (drive.bay === null) fit(draft, unit, { bay }, drive);
  else if (drive.condition === 'failed' || drive.condition === 'out-of-service')
    then({
      id: 'seen-again',
      kind: 'record',
      title: `See that ${bayName(unit, bay)} shows ${serial} again`,
      why: 'Read its serial in the unit’s page. Do not pull it to look: while it comes back, the others carry everything.',
      asks: { kind: 'serial', expects: serial },
      does: [{ kind: 'see-again', serial }],
      bay,
    });
  if (how === 'whole')
    then({
      id: 'whole',
      kind: 'record',
      title: 'See that the unit says healthy, without having rebuilt',
      why: 'Units that remember what was written while a drive was away need minutes. Others take it back without a check: let the unit read everything once.',
      caution: 'If the unit asks to erase it, answer no, stop this plan, and make one with a rebuild.',
      does: [{ kind: 'take-back', pool: pool.id, serial }],
    });
  else {
    const estimate = rebuildOnto(unit, pool, serial, drive, usedShare);
    under('Wait');
    rebuild(draft, unit, {
      pool: pool.id,
      replaces: serial,
      bay,
      task: 'rebuild',
      serial,
      reckoned: reckonedOf(estimate),
    });
  }
  under('Afterwards');
  verified(draft, pool.name);
  then({
    id: 'watch',
    title: 'Watch it: if it drops out once more, replace it',
    why: 'Have a fitting drive at hand now. A drive that leaves twice is leaving for good, and it will choose the hour of a rebuild.',
  });
  return { job: 'came-back', title: `${BayName(unit, bay)} of ${unit.name} came back`, steps: draft.steps };
}
