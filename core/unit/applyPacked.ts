import { frozen } from '../value/frozen';
import { entryOf } from '../value/entryOf';
import { refusal, type Refusal } from '../value/refusal';
import { goMissing } from './applyPool';
import type { Of } from './event';
import { membersOf, poolsOf, type DriveInUnit, type UnitState } from './state';
import { isDown } from './margin';

/** A unit whose drives are carried to another: off, at rest, and whole wherever its drives are until they arrive. */

/**
 * Its drives may be taken out from now on, at `at` (ISO), and none is missing by it. Refused while it runs, while work is
 * under way, and for a pool that is not whole: what is carried thin arrives with nothing left to lose.
 */
export function packUnit(unit: UnitState, { to }: Of<'unit-packed'>, at: string): UnitState | Refusal {
  if (unit.packed) return refusal('packed', `The drives of ${unit.name} are carried already.`, '/kind');
  if (unit.power === 'on')
    return refusal('unit-on', `${unit.name} is on: it is shut down before its drives are carried.`, '/kind');
  const thin = poolsOf(unit).find((pool) => pool.missing.length > 0 || isDown(pool));
  if (thin)
    return refusal(
      'thinned',
      `${thin.name} is not whole (${[...thin.missing, ...thin.lost][0] ?? ''}): what is missing is replaced before anything is carried.`,
      '/kind',
    );
  const busy = Object.values(unit.jobs).find(({ task }) => task !== 'scrub' && task !== 'test');
  if (busy) return refusal('work-runs', `Work is under way in ${unit.name}: it runs to its end first.`, '/kind');
  const bays = Object.fromEntries(
    Object.values(unit.drives).flatMap(({ serial, bay }) => (bay === null ? [] : [[serial, bay] as const])),
  );
  return frozen({ ...unit, packed: { to, at, bays } });
}

/** Its drives are back: those in their bays are as they were, and a member that is not is missing from now on. */
export function unpackUnit(unit: UnitState): UnitState | Refusal {
  if (!unit.packed) return refusal('not-packed', `The drives of ${unit.name} are not carried anywhere.`, '/kind');
  const { packed, ...rest } = unit;
  const drives: Record<string, DriveInUnit> = { ...unit.drives };
  for (const serial of Object.keys(packed.bays)) {
    const drive = entryOf(drives, serial);
    if (drive?.bay == null) continue;
    const { backIn: _whole, ...back } = drive;
    drives[serial] = back;
  }
  const absent = poolsOf(unit)
    .flatMap(membersOf)
    .filter((serial) => entryOf(drives, serial)?.bay == null);
  return frozen(goMissing({ ...rest, drives }, absent));
}
