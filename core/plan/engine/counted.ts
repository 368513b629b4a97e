import type { PlanStep, StepEvidence } from '../plan';
import type { Interlock } from './interlock';

/** What stops a count of drives: fewer or more than went in. A pool that is made now is made without those that are missing. */
export function interlocksOfCount({ does }: PlanStep, evidence: StepEvidence): Interlock[] {
  const count = does.find((one) => one.kind === 'count-drives');
  if (count?.kind !== 'count-drives' || evidence.kind !== 'number' || evidence.number === count.expected) return [];
  const { number } = evidence;
  return [
    {
      kind: 'interlock',
      code: 'drives-missing',
      sentence: `The unit shows ${String(number)} of the ${String(count.expected)} drives in ${count.enclosure}.`,
      back:
        number < count.expected
          ? 'Make no pool yet: one that is missing now is missing from it for good. Look whose lamp is dark, push that tray home or seat the cable again, and count once more.'
          : 'Make no pool yet: a drive is in that was not read. Find it by its serial on the unit’s page, and see whose it is.',
      serial: '',
      mayOverride: false,
    },
  ];
}
