import { bayName } from '../../unit/bayName';
import { refusal, type Refusal } from '../../value/refusal';
import type { DriveInUnit, Pool, UnitState } from '../../unit/state';

/**
 * The drives showing signs that everything would rest on with one member out: each carries the only other copy of
 * something then, and would be read from end to end. None for a member that is out already.
 */
export function sickAlone(unit: UnitState, pool: Pool, member: string): DriveInUnit[] {
  if (pool.missing.includes(member)) return [];
  const found = pool.bands
    .filter(({ members }) => members.includes(member))
    .flatMap(({ members, redundancy }) => {
      const left = members.filter((serial) => serial !== member && !pool.missing.includes(serial));
      return redundancy - (members.length - left.length) > 0 ? [] : left;
    });
  return [...new Set(found)].flatMap((serial) => {
    const drive = unit.drives[serial];
    return drive && (drive.condition === 'suspected' || drive.sick !== undefined) ? [drive] : [];
  });
}

/** Why a member is not taken out while everything else rests on a sick drive, and the ways out. */
export function whyRestsOnSick(unit: UnitState, pool: Pool, member: string, pointer: string): Refusal | undefined {
  const sick = sickAlone(unit, pool, member);
  const [first] = sick;
  if (!first) return undefined;
  const names = sick
    .map(({ serial, bay, note }) => `${bayName(unit, bay)} (${serial}${note === undefined ? '' : `, ${note}`})`)
    .join(' and ');
  const isWell = unit.drives[member]?.sick === undefined && unit.drives[member]?.condition !== 'suspected';
  const ways = [
    ...(unit.profile.rebuild.throughFreeBay
      ? ['go through a free bay, so that nothing is taken out before its copy is written']
      : []),
    ...(isWell ? [`replace ${first.serial} first`] : []),
    'or copy what is on it elsewhere first, and prove the copy',
  ].join('; ');
  return refusal(
    'rests-on-sick',
    `With ${member} out, ${pool.name} would rest on ${names}, which shows signs and would be read from end to end: ${ways}.`,
    pointer,
  );
}
