import type { UnitState } from '../unit/state';
import { refusal, type Refusal } from '../value/refusal';
import { bytesInUse, roomIn, roomiest, type Used } from './room';
import { namesTaken, stockWords } from './stock';
import { waysToMove } from './waysToMove';

/** A unit that takes part in a merge. */
export interface Merging {
  readonly id: string;
  readonly state: UnitState;
}

/** One unit that joins another. */
export interface Joining {
  readonly id: string;
  readonly name: string;
  /** Bytes in use there. */
  readonly bytes: number;
  /** Of its copy: low, likely, high. */
  readonly hours: readonly [number, number, number];
  /** The pool it goes to, where there is room for it after those before it. */
  readonly pool?: { readonly id: string; readonly name: string; readonly leftBytes: number };
  /** Why it cannot join now. */
  readonly whyNot: readonly string[];
  /** What goes by one name here and at the unit it joins, or at one that joins before it. */
  readonly namesTaken: readonly string[];
}

/** Several units that become one. */
export interface Merge {
  readonly kind: 'merge';
  /** In the order in which they join. */
  readonly joining: readonly Joining[];
  /** All copies, one after the other: low, likely, high. */
  readonly hours: readonly [number, number, number];
}

/**
 * Several units joined to one, each by a copy of its own, one after the other: the one with least in use first, since what
 * is wrong with the way is found on the least. Each goes into the pool that has most room by then.
 *
 * @param used bytes in use by pool, as last read; a pool never read counts as full where it is copied from, and as empty
 *   where it is copied to
 * @returns refused for a unit that would join itself, or stands in the list twice
 */
export function mergeInto(target: Merging, units: readonly Merging[], used: Used): Merge | Refusal {
  const twice = units.findIndex(({ id }, i) => id === target.id || units.slice(0, i).some((one) => one.id === id));
  const stray = units[twice];
  if (stray)
    return refusal(
      'same-unit',
      stray.id === target.id
        ? `${target.state.name} cannot join itself.`
        : `${stray.state.name} stands in the list twice.`,
      `/from/${String(twice)}`,
    );
  const filled: Record<string, number> = { ...used };
  const lines = [...(target.state.stock?.lines ?? [])];
  const joining = [...units]
    .sort((a, b) => bytesInUse(a.state, used) - bytesInUse(b.state, used))
    .map(({ id, state }): Joining => {
      const bytes = bytesInUse(state, used);
      const isFilled = Object.entries(filled).some(([pool, of]) => of !== used[pool]);
      const asFilled = (reason: string): string => (isFilled ? `After those before it: ${reason}` : reason);
      const ways = waysToMove(state, target.state, filled, { joins: true });
      const copy = Array.isArray(ways) ? ways.find(({ way }) => way === 'copy') : undefined;
      const whyNot = [
        ...('sentence' in ways ? [ways.sentence] : copy?.possible === false ? copy.reasons.map(asFilled) : []),
        ...Object.values(state.plans).map(({ title }) => `“${title}” is under way there: it is finished first.`),
      ];
      const own = state.stock?.lines ?? [];
      const taken = namesTaken(own, lines).map(stockWords);
      if (whyNot.length === 0) lines.push(...own);
      const pool = whyNot.length === 0 ? fillUp(target.state, filled, bytes) : undefined;
      return {
        id,
        name: state.name,
        bytes,
        hours: copy?.hours ?? [0, 0, 0],
        whyNot,
        namesTaken: taken,
        ...(pool ? { pool } : {}),
      };
    });
  const sum = (at: 0 | 1 | 2): number =>
    joining.reduce((all, { hours, whyNot }) => all + (whyNot.length === 0 ? hours[at] : 0), 0);
  const merge: Merge = { kind: 'merge', joining: Object.freeze(joining), hours: [sum(0), sum(1), sum(2)] };
  return Object.freeze(merge);
}

/** The pool with most room by then, with so much more in it. */
function fillUp(unit: UnitState, filled: Record<string, number>, bytes: number): Joining['pool'] {
  const pool = roomiest(unit, filled);
  if (!pool) return undefined;
  filled[pool.id] = (filled[pool.id] ?? 0) + bytes;
  return { id: pool.id, name: pool.name, leftBytes: roomIn(pool, filled) };
}
