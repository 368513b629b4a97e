import { formatBytes } from '../../quantity/formatBytes';
import { bayName } from '../../unit/bayName';
import { cacheStands } from '../../unit/cacheStands';
import { serviceOf } from '../../unit/serviceOf';
import { cacheSlotsOf, freeBays, freeSlots, poolsOf, type CacheHolds, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanBody } from '../plan';
import { cacheOff } from './cacheOff';
import { copyChecked } from './copyChecked';
import { draftPlan, type PlanDraft } from './draftPlan';
import { fit, HOLD_IT, pull, type NewDrive } from './handsOnDrive';

export interface CacheWish {
  /** `renew`: all of it, for drives of one cache take the same writes. */
  readonly change: 'add' | 'remove' | 'renew';
  /** What it is to hold; left out means as before. */
  readonly holds?: CacheHolds;
  /** What goes in, the same kind in every place. */
  readonly drive?: NewDrive;
  /** Slots or free bays it goes into; left out means the first free slots, two where it holds writes. */
  readonly places?: readonly string[];
}

/** What was written stands in the cache alone for a while: on one drive it would go with that (common practice). */
const FEWEST_FOR_WRITES = 2;

/**
 * The plan to add drives of cache, to take the cache out, or to renew it whole. What is only in the cache is nowhere else: it is
 * switched off and emptied before a drive of it comes out, and what cannot be emptied stops the plan.
 *
 * @returns the plan; or why not: no cache, no free slot, one drive for writes, drives to fit not said
 */
export function cachePlan(unit: UnitState, wish: CacheWish): PlanBody | Refusal {
  const { change, drive } = wish;
  if (unit.packed) return refusal('packed', `The drives of ${unit.name} are on the way: they arrive first.`, '/change');
  if (change !== 'add' && unit.cache.length === 0)
    return refusal(
      'no-cache',
      `No drive is recorded as cache of ${unit.name}: record which one is, at its bay.`,
      '/change',
    );
  const old = unit.cache.flatMap((serial) => {
    const bay = entryOf(unit.drives, serial)?.bay;
    return bay == null ? [] : [{ serial, bay }];
  });
  const holds = wish.holds ?? unit.cacheHolds;
  const places = change === 'add' ? placesFor(unit, wish, holds) : change === 'renew' ? old.map(({ bay }) => bay) : [];
  if ('code' in places) return places;
  if (change !== 'remove') {
    if (holds === undefined)
      return refusal('holds-unsaid', 'Say what it is to hold: only what was read, or what is written too.', '/holds');
    const then = places.length + (change === 'add' ? cacheStands(unit).working.length : 0);
    if (holds === 'writes' && then < FEWEST_FOR_WRITES)
      return refusal(
        'pair-needed',
        'What was written would be on one drive alone until it reaches the pool: it takes two, or a cache of reads only.',
        '/holds',
      );
    if (!drive)
      return refusal(
        'drive-needed',
        `It takes ${places.length === 1 ? 'one drive' : `${String(places.length)} drives`}: say which.`,
        '/drive',
      );
    const stray = places.find((place) => !isSlot(unit, place) && drive.media === 'nvme');
    if (stray !== undefined)
      return refusal(
        'unfitting',
        `Such a drive does not fit ${bayName(unit, stray)}: it goes into a slot.`,
        '/drive/media',
      );
  }

  const draft = draftPlan();
  const { under, then } = draft;
  const touched = change === 'add' ? places : old.map(({ bay }) => bay);
  // Slots are inside the case, whatever its trays do.
  const isCold = serviceOf(unit).isCold || touched.some((place) => isSlot(unit, place));
  under('Before');
  const [pool] = poolsOf(unit);
  if (pool && (change === 'add' ? holds : unit.cacheHolds) !== 'reads') then(copyChecked(unit, pool.id));
  if (change !== 'add') cacheOff(draft, unit);
  under('At the shelf');
  if (isCold) switchedOff(draft, unit);
  if (change !== 'add')
    for (const [i, { serial, bay }] of old.entries()) {
      const suffix = old.length === 1 ? '' : `-${String(i + 1)}`;
      if (isCold) out(draft, unit, serial, bay, suffix);
      else pull(draft, unit, { serial, bay, suffix });
    }
  if (drive && places.length === 1) fit(draft, unit, { bay: places[0] ?? '' }, drive);
  else if (drive) {
    // A serial is of one drive.
    const { serial: _one, ...each } = drive;
    for (const [i, bay] of places.entries()) fit(draft, unit, { bay, suffix: `-${String(i + 1)}` }, each);
  }
  if (isCold) switchedOn(draft, unit);
  if (change !== 'remove' && holds !== undefined) {
    under('At its page');
    made(draft, unit, { holds, places, kept: change === 'add' ? cacheStands(unit).working : [] });
  }
  if (change !== 'add') {
    under('Afterwards');
    const serials = old.map(({ serial }) => serial);
    if (serials.length > 0)
      then({
        id: 'fates',
        kind: 'record',
        title: `Decide what becomes of ${serials.join(' and ')}`,
        why: 'What was read and written last stands on them, in pieces: they are wiped like any other drive before they leave the house.',
        asks: { kind: 'fates', serials },
        does: [{ kind: 'decide-fates', serials }],
      });
  }
  return { job: 'cache', title: TITLES[change](unit.name), steps: draft.steps };
}

const TITLES: Readonly<Record<CacheWish['change'], (name: string) => string>> = {
  add: (name) => `Cache for ${name}`,
  remove: (name) => `${name} without its cache`,
  renew: (name) => `The cache of ${name} anew`,
};

function isSlot(unit: UnitState, place: string): boolean {
  return cacheSlotsOf(unit).includes(place);
}

function placesFor(unit: UnitState, wish: CacheWish, holds: CacheHolds | undefined): readonly string[] | Refusal {
  const free = [...freeSlots(unit), ...freeBays(unit)];
  const wanted = holds === 'writes' && unit.cache.length === 0 ? FEWEST_FOR_WRITES : 1;
  const places = wish.places ?? freeSlots(unit).slice(0, wanted);
  const taken = places.find((place) => !free.includes(place));
  if (taken !== undefined)
    return refusal('bay-occupied', `${bayName(unit, taken)} is not free, or not there.`, '/places');
  return places.length === 0
    ? refusal(
        'no-slot',
        `No slot for cache is free in ${unit.name}: name a free bay, where its family takes cache there.`,
        '/places',
      )
    : places;
}

function switchedOff({ then }: PlanDraft, unit: UnitState): void {
  then({
    id: 'power-down',
    kind: 'act',
    title: `Shut ${unit.name} down in its own page, and wait until it is off`,
    why: 'Slots for cache are inside the case; where they are trays, this family changes nothing while it runs.',
    does: [{ kind: 'switch-power', on: false }],
  });
  then({
    id: 'unplug',
    title: 'Unplug every supply, then open the case',
    why: 'A slot is held by one small screw: keep it. The sheet inside the cover shows which slot is which.',
    caution:
      'Do not open power supplies. Fans have blades. Earth yourself: bare boards are hurt by a spark nobody feels. The maker’s manual comes before this sheet.',
  });
}

function out({ then }: PlanDraft, unit: UnitState, serial: string, bay: string, suffix: string): void {
  then({
    id: `pull${suffix}`,
    kind: 'act',
    title: `Take the drive out of ${bayName(unit, bay)} and read its serial`,
    why: 'Undo its screw, let it spring up, draw it out flat. Read the number on the drive itself before the next is touched.',
    caution: HOLD_IT,
    asks: { kind: 'serial', expects: serial },
    does: [{ kind: 'pull-drive', serial }],
    bay,
  });
}

function switchedOn({ then }: PlanDraft, unit: UnitState): void {
  then({
    id: 'power-up',
    kind: 'act',
    title: 'Close it, plug every supply in, and switch on',
    why: 'Leave its button alone until the lamps say so. Then see that every pool is there as before.',
    does: [{ kind: 'switch-power', on: true }],
    hours: unit.profile.service.waits?.bootHours ?? 0.035,
  });
}

/** Adds the step that makes cache of what stands there. */
function made(
  { then }: PlanDraft,
  unit: UnitState,
  {
    holds,
    places,
    kept,
  }: { readonly holds: CacheHolds; readonly places: readonly string[]; readonly kept: readonly string[] },
): void {
  const where = places.map((place) => bayName(unit, place)).join(' and ');
  then({
    id: 'choose',
    kind: 'act',
    title: `Make ${where} cache in its page, for ${holds === 'reads' ? 'reads only' : 'reads and writes'}`,
    why:
      holds === 'reads'
        ? 'A drive of it that dies costs speed, and nothing else.'
        : 'Choose it mirrored over both. What is written stands only there for a while: two drives, and mains that do not fail under it (a battery behind the supply).',
    caution: `It erases what is on ${places.length === 1 ? 'it' : 'them'}: compare the serials with those you read. If it offers to make a pool of ${places.length === 1 ? 'it' : 'them'}, answer no.`,
    does: [{ kind: 'set-cache', serials: [...kept], bays: [...places], holds }],
  });
  then({
    id: 'seen',
    title: 'See that its page shows the cache as on, with its size, and every pool as it was',
    why: `${poolsOf(unit)
      .map(({ name, usableBytes }) => `${name}, ${formatBytes(usableBytes)}`)
      .join('; ')}. A cache takes days to warm: measure its speed next week, not today.`,
    maySkip: true,
  });
}
