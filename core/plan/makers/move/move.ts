import type { WAYS_TO_MOVE } from '../../../../schemas/moveRequest';
import { waysToMove } from '../../../move/waysToMove';
import type { UnitState } from '../../../unit/state';
import { isRefusal, refusal, type Refusal } from '../../../value/refusal';
import type { PlanBody } from '../../plan';
import type { BothUnits, MoveAround } from './bothUnits';
import { carrySteps } from './carry';
import { copyOverSteps } from './copyOver';

export interface MoveWish {
  /** The unit it is moved to. */
  readonly to: string;
  readonly way: (typeof WAYS_TO_MOVE)[number];
  /** Of a copy: the pool it goes to; left out means the one with most room. */
  readonly pool?: string;
  /** Of a copy: at the very end the one old drive becomes the second of that pool. */
  readonly addOld?: boolean;
  /** Both units and how full their pools are, as they are on record. */
  readonly around?: MoveAround;
}

/**
 * The plan to move a unit to a newer one, by one of the ways that are possible between the two: it acts on both.
 *
 * @returns refused with the reasons where the way is not possible
 */
export function movePlan(unit: UnitState, { to, way, pool, addOld, around }: MoveWish): PlanBody | Refusal {
  if (!around) return refusal('not-found', 'The unit it is moved to is not at hand.', '/to');
  const ways = waysToMove(unit, around.target, around.used);
  if (isRefusal(ways)) return ways;
  const chosen = ways.find((one) => one.way === way);
  if (chosen?.possible !== true)
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
  const steps = copyOverSteps(both, { pool, addOld, byAssistant: way === 'assistant' }, chosen.hours[1]);
  return isRefusal(steps) ? steps : { job: 'move', title: `Move ${unit.name} to ${around.target.name}`, steps };
}
