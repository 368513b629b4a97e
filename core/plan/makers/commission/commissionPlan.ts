import { idleBays } from '../../../unit/poolChanged';
import type { UnitState } from '../../../unit/state';
import { isRefusal, type Refusal } from '../../../value/refusal';
import type { PlanBody } from '../../plan';
import { cablesAndPower } from './cablesAndPower';
import { commissionOf, type CommissionWish } from './commission';
import { fitDrives } from './fitDrives';
import { firstStart } from './firstStart';
import { outOfTheBox } from './outOfTheBox';
import { poolAndVolume } from './poolAndVolume';
import { settingUp } from './settingUp';
import { sharesAndData } from './sharesAndData';
import { whileNew } from './whileNew';

/**
 * The plan that takes a unit from its box to its first backup, made for this family, these bays and these drives: a
 * two-bay box and a head with four extensions get different, fitting lists. Order after common practice; the maker's
 * manual comes before it.
 *
 * @param newId an id for the pool that is made (uuid)
 * @returns the plan, or a refusal when the drives do not fit or the pool cannot be made of them
 */
export function commissionPlan(unit: UnitState, wish: CommissionWish, newId: () => string): PlanBody | Refusal {
  const commission = commissionOf(unit, wish, { idle: idleBays(unit), isFirst: true });
  if (isRefusal(commission)) return commission;
  const { draft } = commission;
  const { pool } = wish;
  outOfTheBox(commission);
  const fits = fitDrives(commission);
  const { found, counted } = firstStart(commission, [...fits, ...cablesAndPower(commission, fits)]);
  const firmware = settingUp(commission, found);
  if (pool) {
    const id = newId();
    const volume = poolAndVolume(commission, pool, id, { fits, counted, firmware, found });
    whileNew(commission, { fits, volume, shares: sharesAndData(commission, id, volume) });
  }
  return { job: 'commission', title: `Commission ${unit.name}`, steps: draft.steps };
}
