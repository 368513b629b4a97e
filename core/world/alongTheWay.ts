import type { Point } from '../ledger/fold';
import { difference, type Hazard } from '../unit/preview';
import type { UnitState } from '../unit/state';
import type { AnyEvent, AnyState } from './ledger';

/**
 * What a person must hear of something placed in the past: the hazards at its own moment, and wherever the history that
 * follows then has less margin than it had without it.
 *
 * @param was every state of the unit without it
 * @param is every state with it
 * @param from when it happened
 */
export function alongTheWay(
  was: readonly Point<AnyState, AnyEvent>[],
  is: readonly Point<AnyState, AnyEvent>[],
  from: string,
): Hazard[] {
  const found = new Map<string, Hazard>();
  let i = 0;
  let without: UnitState | null = null;
  for (const { entry, state } of is) {
    // The same history without it, as far as it had come by then.
    while (i < was.length && !isAfter(was[i] as Point<AnyState, AnyEvent>, entry))
      without = (was[i++] as Point<AnyState, AnyEvent>).state as UnitState;
    if (entry.happenedAt < from || without === null) continue;
    for (const hazard of difference(without, state as UnitState).hazards) found.set(hazard.sentence, hazard);
  }
  return [...found.values()];
}

function isAfter({ entry: a }: Point<AnyState, AnyEvent>, b: Point<AnyState, AnyEvent>['entry']): boolean {
  return a.happenedAt > b.happenedAt || (a.happenedAt === b.happenedAt && a.seq > b.seq);
}
