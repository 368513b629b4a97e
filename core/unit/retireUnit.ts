import { bayName } from './bayName';
import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import type { Of } from './event';
import type { UnitState } from './state';

/**
 * Why a unit is not out of use yet: a drive stands in it, its drives are on the way, it still has a pool, or a plan is under
 * way. Each drive goes first, and says on its own page what became of it.
 */
export function whyNotRetired(unit: UnitState): Refusal | undefined {
  // The plan that retires it ends with just this.
  const plan = Object.values(unit.plans).find(({ job }) => job !== 'retire');
  if (plan) return refusal('plan-running', `“${plan.title}” is under way: finish or stop it first.`, '/kind');
  if (unit.packed) return refusal('packed', `The drives of ${unit.name} are on the way: they arrive first.`, '/kind');
  const drive = Object.values(unit.drives).find(({ bay }) => bay !== null);
  if (drive?.bay != null)
    return refusal(
      'not-empty',
      `${drive.serial} stands in ${bayName(unit, drive.bay)}: every drive is taken out first, and wiped or kept with a record of it.`,
      '/kind',
    );
  const [pool] = Object.values(unit.pools);
  return pool
    ? refusal('pools-left', `${pool.name} is still on its record: say what became of it first.`, '/kind')
    : undefined;
}

/** It is out of use since `at` (ISO): its name and its address are free for another, and it stands on no shelf any more. */
export function retireUnit(unit: UnitState, { note }: Of<'unit-retired'>, at: string): UnitState | Refusal {
  const no = whyNotRetired(unit);
  if (no) return no;
  const { address: _free, ...details } = unit.details;
  const retired = { at, ...(note === undefined || note === '' ? {} : { note }) };
  // Its name is free for another: what is kept of it is called by the minute it went.
  const name = `${unit.name} (retired ${at.slice(0, 16).replace('T', ' ')})`;
  return frozen<UnitState>({ ...unit, name, details, power: 'off', signs: [], retired });
}
