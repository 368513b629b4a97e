import { reachOf } from '../../../unit/reachOf';
import { roleOf } from '../../../unit/roleOf';
import { planLayout } from '../../../layout/planLayout';
import { bayName, BayName } from '../../../unit/bayName';
import { baysOf, type UnitState } from '../../../unit/state';
import { refusal, type Refusal } from '../../../value/refusal';
import type { PlanBody } from '../../plan';
import { draftPlan } from '../draftPlan';
import { cablesAndPower } from './cablesAndPower';
import type { Commission, CommissionWish } from './commission';
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
  const { profile } = unit;
  const bays = baysOf(unit);
  const stray = wish.drives.find(({ bay }) => !bays.includes(bay));
  if (stray) return refusal('bay-unknown', `${unit.name} has no bay ${stray.bay}.`, '/drives');
  const twice = wish.drives.find(({ bay }, i) => wish.drives.findIndex((one) => one.bay === bay) !== i);
  if (twice) return refusal('bay-twice', `Two drives are planned for ${bayName(unit, twice.bay)}.`, '/drives');
  const taken = wish.drives.find(({ bay }) => Object.values(unit.drives).some((drive) => drive.bay === bay));
  if (taken) return refusal('bay-occupied', `${BayName(unit, taken.bay)} of ${unit.name} holds a drive already.`, '/drives');
  const fileSystem = profile.software.fileSystems.find(({ name }) => name === wish.fileSystem);
  if (wish.fileSystem !== undefined && !fileSystem)
    return refusal('file-system-unknown', `This family offers ${profile.software.fileSystems.map(({ name }) => `“${name}”`).join(' and ')}.`, '/fileSystem');
  const standing = Object.values(unit.drives).flatMap(({ serial, bay, bytes, media }) =>
    bay === null || roleOf(unit, serial) !== 'idle' ? [] : [{ bay, bytes, ...(media === undefined ? {} : { media }) }],
  );
  const all = [...standing, ...wish.drives];
  const { pool } = wish;
  if (pool) {
    const layout = planLayout(profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
    if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/pool/scheme');
  }

  const draft = draftPlan();
  const commission: Commission = { unit, wish, all, fileSystem, isClosed: reachOf(unit).isCold, draft };
  outOfTheBox(commission);
  const fits = fitDrives(commission);
  const found = firstStart(commission, [...fits, ...cablesAndPower(commission, fits)]);
  const firmware = settingUp(commission, found);
  if (pool) {
    const volume = poolAndVolume(commission, pool, newId(), [...fits, firmware]);
    whileNew(commission, { fits, volume, shares: sharesAndData(commission, volume) });
  }
  return { job: 'commission', title: `Commission ${unit.name}`, steps: draft.steps };
}
