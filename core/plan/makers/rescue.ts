import type { RecordedEvent } from '../../unit/event';
import { rescueOf } from '../../rescue/rescueOf';
import type { UnitState } from '../../unit/state';
import { draftPlan } from './draftPlan';
import type { PlanBody } from '../plan';

export interface RescueWish {
  /** A pool that is lost, or drives a unit offers only to erase. */
  readonly because: 'lost' | 'offers-to-erase';
}

/** The plan for the bad day: hands off, write down, keep, try in order, stop and call. */
export function rescuePlan(unit: UnitState, { because }: RescueWish, events: readonly RecordedEvent[]): PlanBody {
  const { pools, leave, stopAndCall } = rescueOf(unit, events);
  const draft = draftPlan();
  const { under, then } = draft;
  under('First');
  then({
    id: 'hands-off',
    title: 'Hands off: nothing is pulled, put in, restarted or confirmed',
    why: leave.join(' ').slice(0, 600),
    caution: 'What is on the drives now is the most there will ever be.',
  });
  then({
    id: 'picture',
    kind: 'record',
    title: 'Take a picture of the front and of the unit’s page',
    why: 'Lamps and messages change with the next restart. This is what a recovery firm asks for first.',
    asks: { kind: 'picture' },
  });
  then({
    id: 'happened',
    kind: 'record',
    title: 'Write down what happened, in order',
    why: 'Also what was tried. In an hour it will be remembered differently.',
    asks: { kind: 'text', label: 'What happened, when, and what the unit said' },
    does: [{ kind: 'note' }],
  });
  then({
    id: 'copy',
    kind: 'record',
    title: 'Find the newest copy, and do not touch it',
    why: 'Stop what writes to it: a schedule that mirrors an empty pool empties the copy. If the copy is whole, restoring it to another unit is safer than any rescue.',
    asks: {
      kind: 'choice',
      options: [
        'The copy is whole: restore from it, and leave the drives as they are',
        'The copy is old or partial: go on',
        'There is no copy: go on, and think of a recovery firm before the first try',
      ],
    },
  });
  under('Drives');
  then({
    id: 'power-down',
    kind: 'act',
    title: 'Shut the unit down, if it still answers',
    why: 'A pool that has stopped is not made better by running. Drives that left cannot be read in while it runs.',
    does: [{ kind: 'switch-power', on: false }],
  });
  then({
    id: 'keep',
    title: 'Gather every drive that left, and write bay and serial on each',
    why:
      because === 'offers-to-erase'
        ? 'The old unit’s drives with their bays, its flash stick if it has one, and the unit they came from.'
        : `${pools.flatMap(({ tryFirst }) => tryFirst.map(({ serial }) => serial)).join(', ') || 'None is recorded as gone.'} Also those replaced long ago: one may hold what another has lost.`.slice(
            0,
            600,
          ),
  });
  if (because === 'offers-to-erase') {
    then({
      id: 'back',
      title: 'Put the drives back into the unit they came from, each in its bay',
      why: 'A unit that offers only to erase does not know them: another family, another generation, fewer bays, or a missing stick. Where they came from they are whole.',
      caution: 'If it asks to erase there too, answer no and switch off.',
    });
  } else
    for (const [p, { name, tryFirst, needed }] of pools.entries()) {
      // What failed or clicked is not tried here at all.
      const sound = tryFirst.filter(({ isSick }) => !isSick);
      const order = sound.map(({ serial, words }, i) => `${String(i + 1)}. ${serial}: ${words}`).join(' ');
      const spared = tryFirst.filter(({ isSick }) => isSick).map(({ serial }) => serial);
      then({
        id: `try-${String(p + 1)}`,
        kind: 'record',
        title: `${name}: put back the least stale first, ${needed === 1 ? 'one at a time' : `${String(needed)} of them`}, and switch on`,
        why: `${order.slice(0, 480) || (spared.length > 0 ? 'None that left is sound.' : 'No leaving is on record: go by what you wrote down.')}${spared.length === 0 ? '' : ` Not to be tried here: ${spared.join(', ').slice(0, 80)}; a recovery firm reads them.`}`,
        caution: `Only if nothing clicks. If the unit takes it back whole, copy everything off at once, before any rebuild. ${stopAndCall[1] ?? ''}`,
        asks: {
          kind: 'choice',
          options: [
            'It came back: copying everything off first',
            'It did not: switched off again',
            'Not tried: handed to a recovery firm',
          ],
        },
      });
    }
  under('Then');
  then({
    id: 'call',
    title: 'Stop and call, when one of these is true',
    why: stopAndCall.join(' ').slice(0, 600),
    maySkip: true,
  });
  then({
    id: 'learnt',
    kind: 'record',
    title: 'Write down how it ended',
    why: 'For whoever has the next bad day.',
    asks: { kind: 'text', label: 'How it ended' },
    does: [{ kind: 'note' }],
    maySkip: true,
  });
  return { job: 'rescue', title: `Rescue desk: ${unit.name}`, steps: draft.steps };
}
