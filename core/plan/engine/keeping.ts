import { dayOf } from '../../quantity/days';
import { keptUntil } from '../../unit/keptUntil';
import type { UnitState } from '../../unit/state';
import type { PlanStep } from '../plan';
import type { Interlock } from './interlock';

/** What stops a unit from being taken apart while it is the way back from a move. */
export function interlocksOfKeeping(unit: UnitState, { does }: PlanStep, at: string): Interlock[] {
  const until = does.some(({ kind }) => kind === 'keep-until') ? keptUntil(unit) : undefined;
  if (until === undefined || at >= until) return [];
  return [
    {
      kind: 'interlock',
      code: 'kept-until',
      sentence: `${unit.name} is kept as it is until ${dayOf(until)}: it is the way back, should what moved away turn out to be wrong.`,
      back: 'Leave it switched off with everything as it is, and come back to this step then. Meanwhile fetch files back from the newer one, old ones too.',
      serial: '',
      mayOverride: false,
    },
  ];
}
