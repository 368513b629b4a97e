import type { RecordedEvent } from '../../unit/event';
import { bayName } from '../../unit/bayName';
import { POOL_SAYS, POOL_SAYS_WORDS } from '../../unit/poolSaid';
import { rescueOf, type LeftDrive, type LostPool } from '../../rescue/rescueOf';
import { driveInBay, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { driveFacts } from '../engine/driveFacts';
import { RESCUE_ENDS } from '../engine/eventsOfStep';
import { draftPlan, type PlanDraft } from './draftPlan';
import type { PlanBody } from '../plan';

export interface RescueWish {
  /** A pool that has stopped, or drives a unit offers only to erase. */
  readonly because: 'lost' | 'offers-to-erase';
}

/** The plan for the bad day: hands off, write down, what stands in its bay stays there, try in order, stop and call. */
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
    why: 'Lamps and messages change with the next restart. This is what a recovery firm asks for first. Without a camera leave it out, and write down what is lit.',
    asks: { kind: 'picture' },
    maySkip: true,
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
  if (because === 'offers-to-erase') {
    powerDown(draft);
    then({
      id: 'keep',
      title: 'Gather every drive that left, and write bay and serial on each',
      why: 'The old unit’s drives with their bays, its flash stick if it has one, and the unit they came from.',
    });
    then({
      id: 'back',
      title: 'Put the drives back into the unit they came from, each in its bay',
      why: 'A unit that offers only to erase does not know them: another family, another generation, fewer bays, or a missing stick. Where they came from they are whole.',
      caution: 'If it asks to erase there too, answer no and switch off.',
    });
  } else {
    for (const [i, pool] of pools.entries()) again(draft, unit, pool, String(i + 1));
    if (pools.some(({ tryFirst }) => tryFirst.some(({ bay }) => bay === null))) {
      keep(draft, pools);
      powerDown(draft);
      for (const [i, pool] of pools.entries()) putBack(draft, unit, pool, String(i + 1), stopAndCall[1] ?? '');
    }
  }
  under('Then');
  then({
    id: 'call',
    title: 'Stop and call, when one of these is true',
    why: stopAndCall.join(' ').slice(0, 600),
    maySkip: true,
  });
  if (because === 'lost')
    for (const [i, { pool, name }] of pools.entries())
      then({
        id: `ended-${String(i + 1)}`,
        kind: 'record',
        title: `Say how it ended with ${name}`,
        why: 'As long as a try or a recovery firm is open nothing is lost. Given up, it is recorded as lost, and the pool can be made anew from the copy.',
        asks: { kind: 'choice', options: [...RESCUE_ENDS] },
        does: [{ kind: 'end-rescue', pool }],
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

/** Adds the step that shuts the unit down. */
function powerDown({ then }: PlanDraft): void {
  then({
    id: 'power-down',
    kind: 'act',
    title: 'Shut the unit down, if it still answers',
    why: 'A pool that has stopped is not made better by running. Drives that left cannot be read in while it runs.',
    does: [{ kind: 'switch-power', on: false }],
  });
}

/** Adds the first try, where every drive the pool needs stands in its bay: the unit restarted once, with hands off its trays. */
function again({ then }: PlanDraft, unit: UnitState, pool: LostPool, n: string): void {
  if (!pool.isAllInPlace || pool.isGivenUp) return;
  const inPlace = pool.tryFirst.filter(({ bay, isSick }) => bay !== null && !isSick);
  then({
    id: `again-${n}`,
    kind: 'act',
    title: `${pool.name}: leave every drive in its bay, switch the unit off and on once, and look at its page`,
    why: `Every drive it needs stands in its bay${inPlace.length === 0 ? '' : `: ${inPlace.map(({ serial, bay }) => `${bayName(unit, bay)}, ${serial}`).join('; ')}`}. A pool that stopped is most often back after that.`.slice(
      0,
      600,
    ),
    caution: 'Not if a drive clicks or does not spin up. Shut it down in its own page; pull nothing to look.',
    asks: { kind: 'choice', options: POOL_SAYS.map((says) => POOL_SAYS_WORDS[says]) },
    does: [
      { kind: 'switch-power', on: true },
      { kind: 'hear-pool', pool: pool.pool },
    ],
    hours: unit.profile.service.waits?.bootHours ?? 0.035,
  });
}

/** Adds the step that gathers what is out; what stands in its bay is left there. */
function keep({ then }: PlanDraft, pools: readonly LostPool[]): void {
  const out = pools.flatMap(({ tryFirst }) => tryFirst.filter(({ bay }) => bay === null));
  then({
    id: 'keep',
    title: `Gather the ${out.length === 1 ? 'drive that is' : `${String(out.length)} drives that are`} out, and write bay and serial on each`,
    why: `${out.map(({ serial, whereabouts }) => `${serial}: ${whereabouts}`).join('. ')}. Also those replaced long ago: one may hold what another has lost. What stands in its bay stays there.`.slice(
      0,
      600,
    ),
  });
}

/** Adds the steps that put what is out back, least stale first: as many as it takes, then a look; the others after that, one by one. */
function putBack(draft: PlanDraft, unit: UnitState, pool: LostPool, n: string, whenAsked: string): void {
  const { then } = draft;
  const spared = pool.tryFirst.filter(({ isSick }) => isSick).map(({ serial }) => serial);
  const sound = pool.tryFirst.filter(({ isSick, bay }) => !isSick && bay === null);
  const inPlace = pool.tryFirst.filter(({ isSick, bay }) => !isSick && bay !== null).length;
  const first = Math.max(1, pool.needed - inPlace);
  const put = (drive: LeftDrive, id: string, maySkip: boolean): void => {
    const known = entryOf(unit.drives, drive.serial);
    if (drive.from === null || !known) return;
    // What was fitted in its place since makes room: a tray holds one drive.
    const inIts = driveInBay(unit, drive.from);
    if (inIts && inIts.serial !== drive.serial)
      then({
        id: `room-${id}`,
        kind: 'act',
        title: `Take ${inIts.serial} out of ${bayName(unit, drive.from)}, with the unit off, and write on it what it is`,
        why: `It was fitted there for ${drive.serial}. What was written on it stays on it: keep it, marked with its bay and the day.`,
        caution: 'Earth yourself; hold it by its sides. Only this one tray.',
        asks: { kind: 'serial', expects: inIts.serial },
        does: [{ kind: 'pull-drive', serial: inIts.serial }],
        bay: drive.from,
        ...(maySkip ? { maySkip: true } : {}),
      });
    then({
      id,
      kind: 'act',
      title: `Put ${drive.serial} back into ${bayName(unit, drive.from)}, with the unit off`,
      why: drive.words,
      caution: 'Earth yourself; hold it by its sides. Push until it clicks. Nothing else goes in.',
      asks: { kind: 'serial', expects: drive.serial },
      does: [{ kind: 'fit-drive', drive: { bay: drive.from, serial: drive.serial, ...driveFacts(known) } }],
      bay: drive.from,
      ...(maySkip ? { maySkip: true } : {}),
    });
  };
  const look = (id: string, maySkip: boolean): void => {
    then({
      id,
      kind: 'record',
      title: `${pool.name}: switch on, and look at the unit’s page`,
      why: `${sound.length === 0 ? (spared.length > 0 ? 'None that left is sound.' : 'No leaving is on record: go by what you wrote down.') : 'If the unit takes it back, copy everything off at once, before any rebuild.'}${spared.length === 0 ? '' : ` Not to be tried here: ${spared.join(', ').slice(0, 80)}; a recovery firm reads them.`}`,
      caution: `Only if nothing clicks. ${whenAsked}`,
      asks: { kind: 'choice', options: POOL_SAYS.map((says) => POOL_SAYS_WORDS[says]) },
      does: [
        { kind: 'switch-power', on: true },
        { kind: 'hear-pool', pool: pool.pool },
      ],
      ...(maySkip ? { maySkip: true } : {}),
    });
  };
  for (const [i, drive] of sound.slice(0, first).entries()) put(drive, `put-${n}-${String(i + 1)}`, false);
  look(`try-${n}`, sound.length === 0);
  for (const [i, drive] of sound.slice(first).entries()) {
    then({
      id: `off-${n}-${String(i + 1)}`,
      kind: 'act',
      title: 'It has not come back: shut it down once more',
      why: 'No drive is put in while it runs. If it is back, leave these steps out.',
      does: [{ kind: 'switch-power', on: false }],
      maySkip: true,
    });
    put(drive, `put-${n}-${String(first + i + 1)}`, true);
    look(`try-${n}-${String(i + 2)}`, true);
  }
}
