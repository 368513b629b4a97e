import type { Enclosure, UnitState } from '../../unit/state';
import type { Draft } from './draftPlan';

/** Steps about a unit's boxes: the card, the cables, the power, and every drive in them counted. */

export const CARD: Draft = {
  id: 'card',
  title: 'Check that the controller card for extensions is in the head, fully home',
  why: 'Extensions are cabled to a card of their own; without it the head does not see them.',
  caution: 'Opening the head: switch off and unplug every supply first.',
};

export const LOOK_AGAIN: Draft = {
  id: 'look-again',
  title: 'A second look at every power and data plug',
  why: 'A plug that is half in works until the first warm day.',
};

/** Supplies plugged in, of a unit of several boxes or many bays in pairs. */
export function supplies(inPairs: boolean): Draft {
  return {
    id: 'supplies',
    title: inPairs ? 'Both supplies of every enclosure plugged in' : 'Supply plugged in, on a protected outlet',
    why: 'With one of two supplies dead an alarm sounds: that is its only meaning. There is a button for it.',
  };
}

/** A unit of several boxes or many bays has its supplies in pairs (common practice). */
export function hasPairs(unit: Pick<UnitState, 'enclosures'>): boolean {
  return unit.enclosures.length > 1 || (unit.enclosures[0]?.bays.length ?? 0) >= 12;
}

/** Supplies and their cables, as many as there ought to be. */
export function suppliesOf(unit: Pick<UnitState, 'enclosures'>): { readonly what: string; readonly count: number }[] {
  const count = hasPairs(unit) ? 2 * unit.enclosures.length : 1;
  return [
    { what: 'power supplies', count },
    { what: 'power cables', count },
  ];
}

/** What is in the box counted, line by line. */
export function countBox(items: readonly { readonly what: string; readonly count: number }[], why: string): Draft {
  return {
    id: 'count',
    kind: 'record',
    title: 'Count what is in the box, against its packing list',
    why: `Something missing is claimed today, not the evening the drives go in. Keys and small parts as its packing list names them.${why === '' ? '' : ` ${why}`}`,
    asks: { kind: 'items', items: items.filter(({ count }) => count > 0).map((item) => ({ ...item })) },
    does: [{ kind: 'note' }],
  };
}

/** Rails, weight and two people, for a box of this many bays. */
export function lift(bays: number): Draft[] {
  return bays < 12
    ? []
    : [
        {
          id: 'lift',
          title: 'Rails first, the heaviest unit lowest, two people to lift',
          why: 'A loaded enclosure of twelve bays or more is a two-person lift.',
          caution: 'Rack power and fixed wiring are for licensed people under local codes.',
        },
      ];
}

/** One box cabled to the one before it; `n` counts extensions from 1. */
export function cable(from: string, { name, dial }: Pick<Enclosure, 'name' | 'dial'>, n: number): Draft {
  return {
    id: `cable-${String(n)}`,
    kind: 'act',
    title: `Cable ${from} to ${name}, dial ${String(dial ?? n)}`,
    why: 'Plug the right way up and fully home. Its own number on the dial tells it apart from behind the rack.',
  };
}

/** An extension gets power before the head. */
export function boxPower({ name, dial }: Pick<Enclosure, 'name' | 'dial'>, n: number): Draft {
  return {
    id: `power-${String(n)}`,
    kind: 'act',
    title: `Give ${name} power, and wait until its dial shows ${dial === undefined ? 'its number' : String(dial)}`,
    why: 'Extensions run before the head: what it does not find when it starts, it takes for missing.',
  };
}

/** Drives of a box counted on the unit's page, against as many as it must show. */
export function countDrives(enclosure: string, expected: number, n: number, isOnly: boolean): Draft {
  const where = isOnly ? '' : ` in ${enclosure}`;
  return {
    id: `seen-${String(n)}`,
    kind: 'record',
    title: `Count on its page: ${String(expected)} ${expected === 1 ? 'drive' : 'drives'}${where}`,
    why: 'One that is not seen now is not in what is built next, and nobody notices before the second failure.',
    asks: { kind: 'number', label: `Drives its page shows${where}`, unit: 'drives', least: 0, most: 1000 },
    does: [{ kind: 'count-drives', enclosure, expected }],
  };
}
