import { differenceWords, stockDifferences } from '../../move/stock';
import { entryOf } from '../../value/entryOf';
import type { PlanStep, StepEvidence } from '../plan';
import type { Units } from './carrying';
import type { Interlock } from './interlock';

/** What stops a second stock: something is not as it was, and nobody has said that it is meant. */
export function interlocksOfStock({ does }: PlanStep, evidence: StepEvidence, units: Units): Interlock[] {
  const taken = does.find((one) => one.kind === 'take-stock');
  const before = taken?.kind === 'take-stock' && entryOf(units, taken.against ?? '')?.stock;
  if (!before || evidence.kind !== 'stock' || evidence.seen === true) return [];
  const found = stockDifferences(before.lines, evidence.lines);
  if (found.length === 0) return [];
  const named = found.slice(0, MOST_DIFFERENCES).map(differenceWords).join('; ');
  return [
    {
      kind: 'interlock',
      code: 'stock-differs',
      sentence: `${found.length === 1 ? 'One line is' : `${String(found.length)} lines are`} not as before: ${named}${found.length > MOST_DIFFERENCES ? ' and more' : ''}.`,
      back: 'Put right what is missing, before anybody works on it; then look again. What is meant to be different is said to be.',
      serial: '',
      mayOverride: false,
    },
  ];
}

const MOST_DIFFERENCES = 20;
