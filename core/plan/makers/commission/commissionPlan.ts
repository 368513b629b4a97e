import { serviceOf } from '../../../unit/serviceOf';
import { roleOf } from '../../../unit/roleOf';
import { planLayout } from '../../../layout/planLayout';
import type { Scheme } from '../../../layout/scheme';
import { schemeWords } from '../../../layout/scheme';
import type { Profile } from '../../../platform/profile';
import { formatBytes } from '../../../quantity/formatBytes';
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

/** What a family that builds by count makes of so many drives; `undefined` where it asks. */
export function madeAtFirstStart({ growth }: Profile, drives: number): Scheme | undefined {
  if (!growth.firstPowerOnDecides) return undefined;
  return growth.firstPowerOn?.filter((one) => one.drives <= drives).at(-1)?.scheme;
}

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
  if (taken)
    return refusal('bay-occupied', `${BayName(unit, taken.bay)} of ${unit.name} holds a drive already.`, '/drives');
  const fileSystem = profile.software.fileSystems.find(({ name }) => name === wish.fileSystem);
  if (wish.fileSystem !== undefined && !fileSystem)
    return refusal(
      'file-system-unknown',
      `This family offers ${profile.software.fileSystems.map(({ name }) => `“${name}”`).join(' and ')}.`,
      '/fileSystem',
    );
  const standing = Object.values(unit.drives).flatMap(({ serial, bay, bytes, media }) =>
    bay === null || roleOf(unit, serial) !== 'idle' ? [] : [{ bay, bytes, ...(media === undefined ? {} : { media }) }],
  );
  const all = [...standing, ...wish.drives];
  const { pool } = wish;
  if (pool) {
    const layout = planLayout(profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
    if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/pool/scheme');
    const made = madeAtFirstStart(profile, all.length);
    if (made !== undefined && (made !== pool.scheme || (pool.spares ?? 0) > 0))
      return refusal(
        'first-power-on',
        `With ${all.length === 1 ? 'one drive' : `${String(all.length)} drives`} in at the first power-on this family makes ${schemeWords(made)} of ${all.length === 1 ? 'it' : 'them all'}, without being asked. Choose that${(pool.spares ?? 0) > 0 ? ' without a spare' : ''}, or as many drives as make what you want; a level can be changed afterwards where the family offers it.`,
        '/pool/scheme',
      );
    const room = layout.shownBytes - layout.fileSystemReserveBytes;
    if ((wish.copyBytes ?? 0) > room)
      return refusal(
        'does-not-fit',
        `${formatBytes(wish.copyBytes ?? 0)} do not fit: the pool will hold ${formatBytes(room)} for users. Larger or more drives, or less to copy.`,
        '/copyBytes',
      );
  }

  const draft = draftPlan();
  const commission: Commission = { unit, wish, all, fileSystem, isClosed: serviceOf(unit).isCold, draft };
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
