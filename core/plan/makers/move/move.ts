import type { WAYS_TO_MOVE } from '../../../../schemas/moveRequest';
import { servesOthers, waysToMove } from '../../../move/waysToMove';
import type { UnitState } from '../../../unit/state';
import { isRefusal, refusal, type Refusal } from '../../../value/refusal';
import type { PlanBody } from '../../plan';
import type { BothUnits, MoveAround } from './bothUnits';
import { carrySteps } from './carry';
import { copyOverSteps } from './copyOver';
import { splitOffSteps } from './splitOff';

export interface MoveWish {
  /** The unit it is moved to. */
  readonly to: string;
  readonly way: (typeof WAYS_TO_MOVE)[number];
  /** Of a copy: the pool it goes to; left out means the one with most room. */
  readonly pool?: string;
  /** Of a copy: at the very end the one old drive becomes the second of that pool. */
  readonly addOld?: boolean;
  /** Of a copy: the newer one keeps its own name and address; left out means where somebody counts on it already. */
  readonly joins?: boolean;
  /** Of a copy: only these data sets go, and the rest stays where it is; left out means everything. */
  readonly dataSets?: readonly string[];
  /** Both units and how full their pools are, as they are on record. */
  readonly around?: MoveAround;
}

/**
 * The plan to move a unit to a newer one, by one of the ways that are possible between the two: it acts on both.
 *
 * @returns refused with the reasons where the way is not possible
 */
export function movePlan(
  unit: UnitState,
  { to, way, pool, addOld, joins, dataSets, around }: MoveWish,
): PlanBody | Refusal {
  if (!around) return refusal('not-found', 'The unit it is moved to is not at hand.', '/to');
  const ways = waysToMove(unit, around.target, around.used);
  if (isRefusal(ways)) return ways;
  const chosen = ways.find((one) => one.way === way);
  const isPart = dataSets !== undefined;
  if (isPart && way !== 'copy')
    return refusal(
      'not-possible',
      'A part of what a unit holds is copied: drives are carried with all they hold.',
      '/way',
    );
  if (isPart && addOld === true)
    return refusal('not-possible', 'A part goes: the old drives stay, with what they still hold.', '/addOld');
  if (isPart && joins === false)
    return refusal('not-possible', 'A part goes: both units keep their names and addresses.', '/joins');
  // Whether there is room for a part is asked of the part.
  if (!chosen || (!isPart && !chosen.possible))
    return refusal('not-possible', chosen?.reasons.join(' ') ?? 'There is no such way.', '/way');
  const busy = Object.values(around.target.plans)[0];
  if (busy)
    return refusal(
      'plan-running',
      `“${busy.title}” is under way at ${around.target.name}: it is finished before anything is moved there.`,
      '/to',
    );
  const both: BothUnits = { from: around.from, to, old: unit, newer: around.target, used: around.used };
  if (way === 'carry-by-slot' || way === 'carry-by-serial')
    return { job: 'move', title: `Carry ${unit.name} over to ${around.target.name}`, steps: carrySteps(both, way) };
  if (isPart) {
    const steps = splitOffSteps(both, { pool, only: dataSets }, chosen.hours[1]);
    const title = `Split off from ${unit.name} to ${around.target.name}`;
    return isRefusal(steps) ? steps : { job: 'move', title, steps };
  }
  const isJoined = joins ?? servesOthers(around.target, around.used);
  const wished = { pool, addOld, byAssistant: way === 'assistant', joins: isJoined };
  const steps = copyOverSteps(both, wished, chosen.hours[1]);
  const title = isJoined ? `Join ${unit.name} to ${around.target.name}` : `Move ${unit.name} to ${around.target.name}`;
  return isRefusal(steps) ? steps : { job: 'move', title, steps };
}
