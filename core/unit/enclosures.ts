import { compareBays } from '../quantity/bayOrder';
import type { Profile } from '../platform/profile';

/** The fewest bays a unit has in which these are taken: a bay 6 means six, whatever stands in the others. */
export function fewestBays(named: readonly string[]): number {
  return Math.max(named.length, ...named.map((bay) => (/^\d{1,4}$/.test(bay) ? Number(bay) : 0)));
}

/**
 * The boxes a unit of this profile consists of: the head, and extensions as the family's enclosure size asks for.
 * Bays are numbered through from 1 unless drives already stand in bays of other names, which are kept.
 *
 * @param bays how many bays the unit has, at least as many as are named
 * @param named bays that are known by name
 */
export function enclosuresOf(
  profile: Profile,
  bays: number,
  named: readonly string[],
): { name: string; bays: string[] }[] {
  const names = [...new Set(named)];
  for (let number = 1; names.length < bays; number++) if (!names.includes(String(number))) names.push(String(number));
  names.sort(compareBays);
  const size = profile.bays.perEnclosure ?? names.length;
  return Array.from({ length: Math.ceil(names.length / size) }, (_, i) => ({
    name: i === 0 ? 'Head' : `Extension ${String(i)}`,
    bays: names.slice(i * size, (i + 1) * size),
  }));
}

/** Enclosures as a person lists them, in their order, with bays numbered on from one to the next. */
export function enclosuresNamed(
  boxes: readonly { readonly name: string; readonly bays: number; readonly dial?: number | undefined }[],
): {
  name: string;
  bays: string[];
  dial?: number;
}[] {
  let next = 1;
  return boxes.map(({ name, bays, dial }) => ({
    name,
    bays: Array.from({ length: bays }, () => String(next++)),
    ...(dial === undefined ? {} : { dial }),
  }));
}
