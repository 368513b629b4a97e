import { isSameName } from '../../../value/sameName';
import { drivesExpected, poolsOf, type UnitState } from '../../../unit/state';
import { isRefusal, refusal, type Refusal } from '../../../value/refusal';
import type { PlanBody } from '../../plan';
import { countDrives } from '../boxSteps';
import { whyNotIdle } from '../idleDrives';
import { powerUp } from '../handsOnDrive';
import { commissionOf, type CommissionWish } from './commission';
import { fitDrives } from './fitDrives';
import { poolAndVolume } from './poolAndVolume';
import { sharesAndData } from './sharesAndData';
import { backupArranged } from './whileNew';

export interface NewPoolWish extends CommissionWish {
  readonly pool: NonNullable<CommissionWish['pool']>;
  /** Bays of drives that stand in the unit idle and go into it too. */
  readonly idle?: readonly string[];
}

/**
 * The plan to make one more pool in a unit that is in use: of new drives, of idle ones, or both; nothing that has a pool
 * is touched. It goes on to its volume, its shares and its copy.
 *
 * @param newId an id for the pool that is made (uuid)
 */
export function newPoolPlan(unit: UnitState, wish: NewPoolWish, newId: () => string): PlanBody | Refusal {
  const { profile } = unit;
  const { pool, idle = [] } = wish;
  const wrong = whyNotIdle(unit, idle);
  if (wrong) return wrong;
  if (idle.length + wish.drives.length === 0)
    return refusal('nothing-added', 'Say which drives it is made of.', '/drives');
  if (poolsOf(unit).some(({ name }) => isSameName(name, pool.name)))
    return refusal('name-taken', `${unit.name} has a pool called ${pool.name}.`, '/pool/name');
  if (profile.volumes.count === 'one' && Object.keys(unit.volumes).length > 0)
    return refusal('one-volume', `${profile.name} has one volume only, and ${unit.name} has it.`, '/pool');
  const commission = commissionOf(unit, wish, { idle, isFirst: false });
  if (isRefusal(commission)) return commission;
  const { draft, isClosed } = commission;
  const fits = wish.drives.length === 0 ? [] : fitDrives(commission);
  if (fits.length > 0 && isClosed) powerUp(draft, unit, {});
  draft.under('At its page');
  for (const [i, { name, bays }] of unit.enclosures.entries()) {
    const fitted = wish.drives.filter(({ bay }) => bays.includes(bay)).length;
    if (fitted > 0)
      draft.then(countDrives(name, drivesExpected(unit, name) + fitted, i + 1, unit.enclosures.length === 1));
  }
  const looked = draft.then({
    id: 'healthy',
    title: `See that ${poolsOf(unit).length === 0 ? 'its page shows every drive as free' : 'every pool that is there is healthy, and what goes in is shown as free'}`,
    why: 'What a drive is for is seen by its serial. One that belongs to a pool is not chosen, whatever the page offers.',
  });
  const id = newId();
  const volume = poolAndVolume(commission, pool, id, { fits, counted: [], firmware: looked, found: looked });
  const shares = sharesAndData(commission, id, volume);
  draft.add({ ...backupArranged(id), after: [shares] });
  return { job: 'new-pool', title: `${pool.name}, one more pool of ${unit.name}`, steps: draft.steps };
}
