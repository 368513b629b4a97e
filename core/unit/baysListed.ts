import { isSameName } from '../value/sameName';
import { refusal, type Refusal } from '../value/refusal';
import { enclosuresMeant, trayOf } from './bayName';
import type { Enclosure, UnitState } from './state';

/** The most bays a list names: more than any unit has. */
const MOST = 1000;

/** No bay is named longer; what reads it looks at every character more than once. */
const LONGEST = 120;

/**
 * The bays a person lists: "1-4, 6", or with boxes "Head 1-4; Extension 1 2-3, 6". A box holds for what follows until the
 * next is named; a box alone means all its bays.
 *
 * @returns bays in the order named, each once; refuses what names no bay, or one of several boxes without saying which
 */
export function baysListed(unit: Pick<UnitState, 'enclosures'>, words: string): readonly string[] | Refusal {
  const bays: string[] = [];
  let box: Enclosure | undefined = unit.enclosures.length === 1 ? unit.enclosures[0] : undefined;
  for (const part of words
    .split(/[,;\n]/)
    .map((one) => one.trim())
    .filter((one) => one !== '')) {
    if (part.length > LONGEST)
      return refusal('bay-unclear', `"${part.slice(0, 40)}…" names no bay. Write it as "Head 1-4".`);
    const whole = unit.enclosures.find(({ name }) => isSameName(name, part));
    if (whole) {
      box = whole;
      bays.push(...whole.bays);
      continue;
    }
    const [, before = '', first = '', last = first] =
      /^(.*?)[\s:]*(?:\b(?:bays?|trays?|slots?)\s*)?(?<![\w.])([\w.]+?)(?:\s*(?:-|–|to)\s*(\w+))?$/i.exec(part) ?? [];
    if (before !== '') {
      const exact = unit.enclosures.filter(({ name }) => isSameName(name, before));
      const named = exact.length > 0 ? exact : enclosuresMeant(unit, before);
      if (named.length !== 1)
        return refusal('bay-unknown', `"${part}" names no box of this unit. Write it as "Head 1-4".`);
      box = named[0];
    }
    if (box === undefined)
      return refusal('bay-unclear', `Say which box "${part}" is in: "${unit.enclosures[0]?.name ?? ''} ${part}".`);
    const range =
      /^\d+$/.test(first) && /^\d+$/.test(last) && Number(last) - Number(first) < MOST
        ? numbers(Number(first), Number(last))
        : [];
    for (const tray of range.length === 0 ? [last === first ? first : `${first}-${last}`] : range) {
      const inside: Enclosure = box;
      const bay = inside.bays.find((one) => isSameName(trayOf(unit, one)?.tray ?? '', tray));
      if (bay === undefined)
        return refusal('bay-unknown', `${inside.name} has no bay ${tray}: it has ${String(inside.bays.length)}.`);
      bays.push(bay);
    }
  }
  return [...new Set(bays)];
}

function numbers(first: number, last: number): string[] {
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => String(first + i));
}
