import { compareBays } from '../quantity/bayOrder';
import type { Profile } from '../platform/profile';
import { refusal, type Refusal } from '../value/refusal';
import type { UnitState } from './state';

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

/** Why a family hangs no further box with so many bays behind this unit; `undefined` where it does. */
export function whyNotExtended(
  { enclosures, profile, name, away }: Pick<UnitState, 'enclosures' | 'profile' | 'name' | 'away'>,
  bays: number,
): Refusal | undefined {
  const { perEnclosure, choices } = profile.bays;
  if (perEnclosure === undefined && enclosures.length < 2)
    return refusal('takes-none', `${profile.name} takes no extension: all its bays are in the head.`, '/bays');
  if (away.length > 0)
    return refusal('enclosure-away', `${away.join(', ')} has dropped out of ${name}: bring it back first.`, '/name');
  if (perEnclosure !== undefined && bays > perEnclosure)
    return refusal('too-many-bays', `An extension of this family has ${String(perEnclosure)} bays.`, '/bays');
  const there = enclosures.reduce((sum, box) => sum + box.bays.length, 0);
  const most = Math.max(...choices);
  return there + bays > most
    ? refusal(
        'too-many-bays',
        `${profile.name} reaches to ${String(most)} bays, and ${name} has ${String(there)}: ${there < most ? `${String(most - there)} more at most` : 'a further box needs a second unit'}.`,
        '/bays',
      )
    : undefined;
}

/** How many boxes of so many bays can still be hung on. */
export function extensionsLeft(
  unit: Pick<UnitState, 'enclosures' | 'profile' | 'name' | 'away'>,
  bays: number,
): number {
  if (whyNotExtended(unit, bays)) return 0;
  const there = unit.enclosures.reduce((sum, box) => sum + box.bays.length, 0);
  return Math.floor((Math.max(...unit.profile.bays.choices) - there) / bays);
}

/**
 * One more box of a unit, its bays numbered on from those that are there.
 *
 * @returns the box; refused when its name or the number on its dial is taken
 */
export function withBox(
  { enclosures, name: unit }: Pick<UnitState, 'enclosures' | 'name'>,
  { name, bays, dial }: { readonly name: string; readonly bays: number; readonly dial: number },
): { name: string; bays: string[]; dial: number } | Refusal {
  if (enclosures.some((one) => one.name === name))
    return refusal('enclosure-exists', `${unit} has an enclosure called ${name}.`, '/name');
  const same = enclosures.find((one) => one.dial === dial);
  if (same) return refusal('dial-taken', `${same.name} has ${String(dial)} on its dial.`, '/dial');
  const first = fewestBays(enclosures.flatMap((box) => box.bays)) + 1;
  return { name, bays: Array.from({ length: bays }, (_, i) => String(first + i)), dial };
}
