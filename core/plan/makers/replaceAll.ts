import { BayName } from '../../unit/bayName';
import { formatBytes } from '../../quantity/formatBytes';
import { compareBays } from '../../quantity/bayOrder';
import { parityOf } from '../../pool/dedicatedParity';
import { fullMarginOfPool, marginOfPool } from '../../unit/margin';
import { freeBays, membersOf, type DriveInUnit, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import { toldOfSlowness } from './toldOfSlowness';
import { copyChecked } from './copyChecked';
import { reckonedOf } from './reckoned';
import { draftPlan } from './draftPlan';
import { driveListed } from './driveListed';
import { layOut } from './freshDrives';
import { fit, powerDown, powerUp, pull, rebuild, swap, type NewDrive } from './handsOnDrive';
import { whyRestsOnSick } from './sickAlone';
import { sparesAside, sparesBack } from './sparesAside';
import type { PlanBody } from '../plan';
import { rebuildOnto } from '../../rebuild/rebuildOnto';
import { spaceSeen } from './spaceSeen';
import { toldAfter } from './toldAfter';
import { nextSpare, oldDrivesFate, verified, type ReplaceWish } from './replace';

export interface ReplaceAllWish extends Pick<ReplaceWish, 'usedShare' | 'tested' | 'copyProven'> {
  readonly pool: string;
  /** What each member is replaced by: the same kind for all, serials read one by one. */
  readonly drive: NewDrive;
  /** Each in its own bay, or through a free one, where the pool never gets thinner; left out means in its own bay. */
  readonly way?: 'in-place' | 'free-bay';
}

/** More members than this are a move to a new unit, not a plan to stand through. */
const MOST_MEMBERS = 60;

/**
 * The plan to replace every member that is smaller by a larger drive, one at a time: what shows signs first, then the
 * oldest, then the smallest; each rebuilt and seen healthy before the next. Space comes as the family gives it: by itself along the way, or by one command at the end.
 */
export function replaceAllPlan(unit: UnitState, wish: ReplaceAllWish): PlanBody | Refusal {
  const pool = entryOf(unit.pools, wish.pool);
  if (!pool) return refusal('pool-unknown', `${unit.name} has no pool ${wish.pool}.`, '/pool');
  if (marginOfPool(pool) < fullMarginOfPool(pool))
    return refusal('thinned', `${pool.name} is thinned: replace what is missing first, then grow.`, '/pool');
  if (fullMarginOfPool(pool) === 0)
    return refusal(
      'unguarded',
      `${pool.name} has no protection: its members cannot be swapped under it. Copy it to a new pool.`,
      '/pool',
    );
  const parity = parityOf(pool);
  const isParity = (serial: string): boolean => parity.includes(serial);
  const smaller = membersOf(pool)
    .flatMap((serial) => entryOf(unit.drives, serial) ?? [])
    .filter(({ bytes }) => bytes < wish.drive.bytes)
    // Where parity is dedicated it goes first: nothing guards a data drive above it.
    .sort(
      (a, b) =>
        Number(isParity(b.serial)) - Number(isParity(a.serial)) ||
        Number(isSick(b)) - Number(isSick(a)) ||
        compareText(monthOf(a), monthOf(b)) ||
        a.bytes - b.bytes ||
        compareBays(a.bay ?? '', b.bay ?? ''),
    );
  if (smaller.length === 0)
    return refusal(
      'none-smaller',
      `No member of ${pool.name} is smaller than ${wish.drive.label ?? formatBytes(wish.drive.bytes)}.`,
      '/drive/bytes',
    );
  if (smaller.length > MOST_MEMBERS)
    return refusal(
      'too-many',
      `${String(smaller.length)} members are too many for one plan: ${String(MOST_MEMBERS)} at most.`,
      '/pool',
    );
  const limit = unit.profile.bays.largestDriveBytes ?? Infinity;
  if (wish.drive.bytes > limit)
    return refusal('drive-too-large', `This family takes drives of up to ${formatBytes(limit)}.`, '/drive/bytes');

  const way = wish.way ?? 'in-place';
  const [free] = freeBays(unit);
  if (way === 'free-bay' && !unit.profile.rebuild.throughFreeBay)
    return refusal('no-free-bay-way', 'This family does not replace through a free bay.', '/way');
  if (way === 'free-bay' && free === undefined) return refusal('bay-occupied', 'No bay is free.', '/way');
  // Only the first goes out while the others are as they are; those that follow find what was sick replaced.
  let sofar = unit;
  for (const { serial } of way === 'in-place' && wish.copyProven !== true ? smaller : []) {
    const rests = whyRestsOnSick(sofar, pool, serial, '/way');
    if (rests) return rests;
    sofar = settled(sofar, serial);
  }

  const byItself = unit.profile.growth.expand === 'by-itself';
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  then(copyChecked(unit, pool.id));
  then(
    toldOfSlowness(
      pool,
      'will be slow while each is rebuilt',
      'Each rebuild takes its share of every disk. A unit restarted by somebody who meant well begins again, or worse.',
    ),
  );
  layOut(draft, wish.drive, {
    pool: pool.id,
    use: 'swap',
    bays: smaller.flatMap(({ bay }) => bay ?? []),
    why: `${driveListed(wish.drive, wish.tested)} Look that all are of one kind and none is shingled.${parity.length > 0 ? ' Parity is replaced first: it guards nothing above its own size.' : ''} ${byItself ? 'Space comes along the way, as soon as enough members are larger.' : 'No space comes before the last is in and the pool is expanded: that is no fault.'}`,
  });
  if (way === 'in-place') sparesAside(draft, unit, pool);
  let freeBay = free ?? '';
  for (const [i, old] of smaller.entries()) {
    under(`${BayName(unit, old.bay)}, ${String(i + 1)} of ${String(smaller.length)}`);
    const suffix = `-${String(i + 1)}`;
    oneOf(draft, unit, pool.id, old, wish, suffix, byItself, way === 'free-bay' ? freeBay : undefined);
    // The next goes into the bay this one leaves.
    freeBay = old.bay ?? freeBay;
    verified({ ...draft, then: (step) => then({ ...step, id: `${step.id}${suffix}` }) }, pool.name);
    oldDrivesFate(draft, old, suffix);
  }
  under('Afterwards');
  if (!byItself)
    then({
      id: 'expand',
      kind: 'act',
      title: `Expand ${pool.name} in the unit’s own page`,
      why: 'Until then the space is simply not there, and people think it failed. It takes minutes to a day; the pool can be used meanwhile.',
      does: [{ kind: 'expand', pool: pool.id }],
    });
  if (way === 'in-place') sparesBack(draft, unit, pool, wish.drive.bytes);
  spaceSeen(draft, unit, 'replace-all', pool.id);
  nextSpare(draft, wish.drive);
  toldAfter(draft, pool);
  return { job: 'replace-all', title: `Larger drives for ${pool.name} of ${unit.name}`, steps: draft.steps };
}

function isSick({ sick, condition }: DriveInUnit): boolean {
  return sick !== undefined || condition === 'suspected';
}

/** The month a drive was bought in; where nobody knows, when it came in. */
function monthOf({ boughtOn, insertedAt }: DriveInUnit): string {
  return (boughtOn ?? insertedAt).slice(0, 7);
}

function compareText(a: string, b: string): number {
  return a < b ? -1 : Number(a > b);
}

/** The unit once a member was replaced by a drive that is well. */
function settled(unit: UnitState, serial: string): UnitState {
  const { sick: _sick, ...drive } = unit.drives[serial] as DriveInUnit;
  return { ...unit, drives: { ...unit.drives, [serial]: { ...drive, condition: 'well' } } };
}

function oneOf(
  draft: ReturnType<typeof draftPlan>,
  unit: UnitState,
  pool: string,
  old: DriveInUnit,
  wish: ReplaceAllWish,
  suffix: string,
  byItself: boolean,
  freeBay: string | undefined,
): void {
  const bay = old.bay ?? '';
  const { serial: _one, ...drive } = wish.drive;
  if (freeBay === undefined) swap(draft, unit, { serial: old.serial, bay, suffix }, drive);
  else {
    powerDown(draft, unit, suffix);
    fit(draft, unit, { bay: freeBay, suffix }, drive, old.serial);
    powerUp(draft, unit, { suffix });
  }
  const poolNow = unit.pools[pool];
  if (!poolNow) return;
  const estimate = rebuildOnto(unit, poolNow, old.serial, drive, wish.usedShare);
  rebuild(draft, unit, {
    pool,
    replaces: old.serial,
    bay: freeBay ?? bay,
    task: freeBay === undefined ? 'rebuild' : 'replace',
    reckoned: reckonedOf(estimate),
    suffix,
    and: byItself ? [{ kind: 'expand', pool }] : [],
  });
  if (freeBay === undefined) return;
  pull(draft, unit, { serial: old.serial, bay, suffix: `${suffix}-old` });
  powerUp(draft, unit, { suffix: `${suffix}-old` });
}
