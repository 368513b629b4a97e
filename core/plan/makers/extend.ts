import { whyNotExtended, withBox } from '../../unit/enclosures';
import { drivesExpected, poolsOf, type UnitState } from '../../unit/state';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { PlanBody } from '../plan';
import { boxPower, cable, CARD, countBox, countDrives, lift, LOOK_AGAIN, supplies } from './boxSteps';
import { copyChecked } from './copyChecked';
import { draftPlan } from './draftPlan';

export interface ExtendWish {
  /** What the new box is called. */
  readonly name: string;
  readonly bays: number;
  /** The number set on its dial; left out means the next. */
  readonly dial?: number;
}

/**
 * The plan to hang one more extension behind the last: the card, the cables in their order, the dial, and the power, the
 * extension before the head. Its bays are empty when it is done; drives are added by a plan of their own.
 */
export function extendPlan(unit: UnitState, { name, bays, dial }: ExtendWish): PlanBody | Refusal {
  const no = whyNotExtended(unit, bays);
  if (no) return no;
  const thin = poolsOf(unit).find(({ missing }) => missing.length > 0);
  if (thin)
    return refusal(
      'thinned',
      `${thin.name} is thinned: replace what is missing first. A unit is not switched off for an extension meanwhile.`,
      '/name',
    );
  const box = withBox(unit, { name, bays, dial: dial ?? unit.enclosures.length });
  if (isRefusal(box)) return box;
  const before = unit.enclosures.at(-1)?.name ?? 'the head';
  const n = unit.enclosures.length;
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  for (const [i, pool] of poolsOf(unit).entries())
    then({ ...copyChecked(unit, pool.id), id: i === 0 ? 'copy' : `copy-${String(i + 1)}` });
  then({
    id: 'attention',
    title: 'Read the sheets in the box, the latest “attention” sheet first',
    why: 'It is printed after the manual and corrects it. Look there whether the unit’s firmware has to be newer first.',
  });
  then(
    countBox(
      [
        { what: 'trays', count: bays },
        { what: 'power supplies', count: 2 },
        { what: 'power cables', count: 2 },
        { what: 'extension cables', count: 1 },
      ],
      'The card for the head comes with the first extension, where the head has none.',
    ),
  );
  then({
    id: 'told',
    title: `Tell the people who use ${unit.name} that it will be off for an hour or two`,
    why: 'A card and cables are fitted with the unit off, whatever it allows for drives.',
  });
  under('At the shelf');
  then({
    id: 'power-down',
    kind: 'act',
    title: `Shut ${unit.name} down in its own page, wait until it is off, and unplug every supply`,
    why: 'The head first, then the extensions that are there: the head must never run without a box its pools stand in.',
    caution:
      'Do not open power supplies. Fans have blades. Earth yourself; the maker’s manual and your site’s rules come before this sheet.',
    does: [{ kind: 'switch-power', on: false }],
  });
  then(CARD);
  for (const step of lift(bays)) then(step);
  then({
    id: 'dial',
    title: `Set the dial of ${name} to ${String(box.dial)}`,
    why: 'Each box has its own number, before it gets power: two of one number, and the unit sees only one of them.',
  });
  then(cable(before, box, n));
  then(LOOK_AGAIN);
  then(supplies(true));
  under('First start');
  for (const [i, other] of [...unit.enclosures.slice(1), box].entries()) then(boxPower(other, i + 1));
  then({
    id: 'start',
    kind: 'act',
    title: `Switch ${unit.enclosures[0]?.name ?? 'the head'} on, last of all, and leave its button alone until the lamps say so`,
    why: 'Odd lamps for a while are normal.',
    does: [{ kind: 'switch-power', on: true }],
    hours: unit.profile.service.waits?.bootHours ?? 0.035,
  });
  under('At its page');
  for (const [i, { name: of }] of unit.enclosures.entries()) {
    const expected = drivesExpected(unit, of);
    if (expected > 0) then(countDrives(of, expected, i + 1, false));
  }
  then({
    id: 'attached',
    title: `See that its page shows ${name}, number ${String(box.dial)}, with ${String(bays)} empty ${bays === 1 ? 'bay' : 'bays'}`,
    why: 'And every pool as it was. It is on the record from now on, with its bays.',
    caution:
      'If a pool is missing or thinner than before: start no repair. Switch off, look at every cable, right way up and fully home, and start again in the same order.',
    does: [{ kind: 'attach-enclosure', enclosure: box }],
  });
  then({
    id: 'labels',
    title: 'Print its labels and stick them on',
    why: 'The number of the box and its bays, read from behind the rack with a lamp in the other hand.',
    maySkip: true,
  });
  return { job: 'extend', title: `${name} for ${unit.name}, ${String(bays)} bays`, steps: draft.steps };
}
