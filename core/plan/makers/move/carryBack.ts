import { bayName } from '../../../unit/bayName';
import { entryOf } from '../../../value/entryOf';
import type { UnitState } from '../../../unit/state';
import { refusal, type Refusal } from '../../../value/refusal';
import { ARRIVALS } from '../../engine/carrying';
import type { PlanBody } from '../../plan';
import { draftPlan } from '../draftPlan';
import { HOLD_IT } from '../handsOnDrive';
import type { MoveAround } from './bothUnits';

export interface CarryBackWish {
  /** The unit they were carried to, as it is on record. */
  readonly around?: Omit<MoveAround, 'used'>;
}

/**
 * The plan that puts carried drives back into the bays they came from: both units off, every drive read, and the old unit
 * looked at before anything is done in it.
 *
 * @returns refused for a unit whose drives are not carried anywhere
 */
export function carryBackPlan(unit: UnitState, { around }: CarryBackWish): PlanBody | Refusal {
  const { packed } = unit;
  if (!packed) return refusal('not-packed', `The drives of ${unit.name} are not carried anywhere.`, '/unit');
  if (!around) return refusal('not-found', 'The unit they were carried to is not at hand.', '/unit');
  const { from, target } = around;
  const to = packed.to;
  const draft = draftPlan();
  const { under, then } = draft;
  const out = Object.keys(packed.bays);
  const there = out.flatMap((serial) => {
    const bay = entryOf(target.drives, serial)?.bay;
    return bay == null ? [] : [{ serial, bay }];
  });
  const back = out.flatMap((serial) =>
    entryOf(unit.drives, serial)?.bay == null ? [{ serial, bay: packed.bays[serial] ?? '' }] : [],
  );
  under(`Out of ${target.name}`);
  then({
    id: 'nothing-erased',
    title: `Answer no to whatever ${target.name} asks`,
    why: 'As long as nothing was written, the drives are as they were, and the old unit knows them.',
    caution:
      'If somebody has answered yes: switch it off now, put nothing back, and open the rescue desk. What was not written over may still be read by a recovery firm.',
  });
  then({
    id: 'new-off',
    kind: target.power === 'on' ? 'act' : 'check',
    title: `Switch ${target.name} off, and unplug it`,
    why: 'No drive is pulled while it runs.',
    caution: 'Do not open power supplies. Fans have blades.',
    does: target.power === 'on' ? [{ unit: to, kind: 'switch-power', on: false }] : [],
  });
  if (there.length > 0)
    then({
      id: 'out',
      kind: 'act',
      title: `Take ${there.length === 1 ? 'the drive' : `the ${String(there.length)} drives`} out of ${target.name}, and read each`,
      why: 'Lay them in the order of the numbers they had.',
      caution: HOLD_IT,
      asks: { kind: 'scans', bays: there.map(({ serial, bay }) => ({ bay, expects: serial })) },
      does: there.map(({ serial }) => ({ unit: to, kind: 'pull-drive' as const, serial })),
    });
  under(`Back into ${unit.name}`);
  if (back.length > 0)
    then({
      id: 'in',
      kind: 'act',
      title: `Put ${back.length === 1 ? 'the drive' : `the ${String(back.length)} drives`} back into ${unit.name}, each into the bay it had`,
      why: `${back
        .slice(0, 4)
        .map(({ serial, bay }) => `${bayName(unit, bay)}: ${serial}`)
        .join('; ')}${back.length > 4 ? ' and so on' : ''}. Read each as it goes in.`,
      caution: HOLD_IT,
      asks: { kind: 'scans', bays: back.map(({ serial, bay }) => ({ bay, expects: serial })) },
      does: back.map(({ serial, bay }) => ({ kind: 'carry-in' as const, bay, from, serial })),
    });
  if (unit.profile.roaming.flashStick)
    then({
      id: 'stick',
      title: `The flash stick back into ${unit.name}`,
      why: 'System, licence and roles are on it.',
    });
  then({
    id: 'start',
    kind: 'act',
    title: `Plug ${unit.name} in, and switch it on`,
    why: 'Extensions first, the head last. Leave its button alone until the lamps say so.',
    does: [{ kind: 'switch-power', on: true }],
    hours: unit.profile.service.waits?.bootHours ?? 0.035,
  });
  then({
    id: 'arrived',
    kind: 'act',
    title: `Look at the page of ${unit.name}: what does it show?`,
    why: 'As it was before: it is whole again. Anything else is noted, and looked at before anything is repaired.',
    caution: 'Start no repair now, and answer no if it asks to erase.',
    asks: { kind: 'choice', options: [...ARRIVALS] },
    does: [{ kind: 'unpack' }],
  });
  then({
    id: 'told-after',
    title: 'Switch on again what was switched off, and tell the people who use it',
    why: 'The data is where it was. The newer unit gets it over the network, another day.',
    maySkip: true,
  });
  return { job: 'carry-back', title: `Carry the drives of ${unit.name} back`, steps: draft.steps };
}
