import type { UnitEvent } from '../../unit/event';
import { BayName } from '../../unit/bayName';
import { driveInBay, type UnitState } from '../../unit/state';
import { refusal, type Refusal } from '../../value/refusal';
import type { Intention, PlanStep, StepEvidence } from '../plan';
import type { Interlock } from './interlock';

/** What the page of a unit says of a cache that was switched off: only the first leaves nothing in it. */
export const EMPTIED = [
  'It is off, and nothing is left in it',
  'It is still emptying',
  'It says that it cannot be emptied',
] as const;

/** What stops a drive from coming out of a cache that is not empty. */
export function interlocksOfCache({ asks, does }: PlanStep, evidence: StepEvidence): Interlock[] {
  if (asks.kind !== 'choice' || evidence.kind !== 'choice' || asks.options[0] !== EMPTIED[0]) return [];
  const before = does.find(({ kind }) => kind === 'set-cache');
  if (!before || evidence.choice === EMPTIED[0]) return [];
  const serial = '';
  return evidence.choice === EMPTIED[1]
    ? [
        {
          kind: 'interlock',
          code: 'cache-full',
          sentence: 'What is still in it was written by people, and is nowhere else.',
          back: 'Leave it on, pull nothing, and look again in an hour: minutes on some units, a night on others. Where it gets no further, stop what writes to it.',
          serial,
          mayOverride: false,
        },
      ]
    : [
        {
          kind: 'interlock',
          code: 'cache-stuck',
          sentence:
            'What was written last may be only in it: with its drives out that is lost, and the pool may not be whole.',
          back: 'Pull nothing and restart nothing. Copy what was written today off its shares first; keep its log, and ask its maker’s support. Only then go on.',
          serial,
          mayOverride: true,
        },
      ];
}

/** The cache as a step leaves it; what could not be emptied is said in the ledger. */
export function eventsOfCache(
  unit: UnitState,
  { serials, bays = [], holds }: Extract<Intention, { kind: 'set-cache' }>,
  evidence: StepEvidence,
): UnitEvent[] | Refusal {
  const empty = bays.find((bay) => !driveInBay(unit, bay));
  if (empty !== undefined)
    return refusal('bay-empty', `${BayName(unit, empty)} is still empty: there is no drive to make cache of.`, '/step');
  const standing = bays.flatMap((bay) => driveInBay(unit, bay)?.serial ?? []);
  return [
    {
      kind: 'cache-set',
      serials: [...serials, ...standing],
      ...(holds === undefined ? {} : { holds }),
    },
    ...(evidence.kind === 'choice' && evidence.choice === EMPTIED[2]
      ? [{ kind: 'noted' as const, note: 'The cache could not be emptied: what was written last may be missing.' }]
      : []),
  ];
}
