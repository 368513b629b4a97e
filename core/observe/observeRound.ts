import { membersOf, type UnitState } from '../unit/state';
import { entryOf } from '../value/entryOf';
import type { Observation } from './observation';

/** What a person saw of a unit in passing. */
export interface RoundSeen {
  /** Drives that are lit and in. */
  readonly seen?: number;
  /** How far the unit shows the work of a pool to be, in percent. */
  readonly progress?: readonly { readonly pool: string; readonly percent: number }[];
}

/** A person's round as an observation: held against the record like a page or the unit's own word. Pools that are not here are left out. */
export function observeRound({ pools }: UnitState, { seen, progress = [] }: RoundSeen): Observation {
  return Object.freeze({
    kind: 'observation',
    by: 'round',
    bays: [],
    counts: seen === undefined ? [] : [{ line: 0, seen }],
    pools: progress.flatMap(({ pool: id, percent }) => {
      const pool = entryOf(pools, id);
      return pool ? [{ serials: membersOf(pool), isWell: false, percent }] : [];
    }),
    unread: [],
  });
}
