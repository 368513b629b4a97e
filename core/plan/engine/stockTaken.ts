import {
  differenceWords,
  namesTaken,
  stockDifferences,
  stockJoined,
  stockWords,
  type StockLine,
} from '../../move/stock';
import { entryOf } from '../../value/entryOf';
import type { PlanStep, StepEvidence } from '../plan';
import type { Units } from './carrying';
import type { Interlock } from './interlock';

/**
 * What a second stock is gone through by: what was written down of the unit it is compared with; and, where that has joined
 * one which serves others, what this one did before.
 */
export function stockBefore({ does }: Pick<PlanStep, 'does'>, units: Units): readonly StockLine[] | undefined {
  const taken = does.find((one) => one.kind === 'take-stock');
  const before = entryOf(units, taken?.against ?? '')?.stock?.lines;
  if (taken?.joins === undefined || before === undefined) return before;
  return stockJoined(entryOf(units, taken.unit ?? '')?.stock?.lines ?? [], before);
}

/** What stops a stock: something is not as it was, or a name is taken, and nobody has said that it is meant. */
export function interlocksOfStock(step: Pick<PlanStep, 'does'>, evidence: StepEvidence, units: Units): Interlock[] {
  if (evidence.kind !== 'stock' || evidence.seen === true) return [];
  const before = stockBefore(step, units);
  return before ? differs(before, evidence.lines) : joins(step, evidence.lines, units);
}

function differs(before: readonly StockLine[], lines: readonly StockLine[]): Interlock[] {
  const found = stockDifferences(before, lines);
  return stopped(
    'stock-differs',
    found.map(differenceWords),
    (count) => `${count === 1 ? 'One line is' : `${String(count)} lines are`} not as before`,
    'Put right what is missing, before anybody works on it; then look again. What is meant to be different is said to be.',
  );
}

/** What comes under a name that is given there already: of a unit that joins, or of the part of one that goes over. */
function joins({ does }: Pick<PlanStep, 'does'>, lines: readonly StockLine[], units: Units): Interlock[] {
  const taken = does.find((one) => one.kind === 'take-stock');
  const [joining, there] = [entryOf(units, taken?.joins ?? ''), entryOf(units, taken?.goesTo ?? '')];
  const [coming, given] = there ? [lines, there.stock?.lines] : [joining?.stock?.lines, lines];
  return stopped(
    'names-taken',
    namesTaken(coming ?? [], given ?? []).map(stockWords),
    (count) =>
      `${count === 1 ? 'One name' : `${String(count)} names`} ${there ? 'that would go over' : `of ${joining?.name ?? 'the other'}`} ${count === 1 ? 'is' : 'are'} taken${there ? ` on ${there.name}` : ''}`,
    'What is copied to a name that is taken goes into what others keep there, or over it. Choose other names for these now, write them where the shares are made, and go on.',
  );
}

function stopped(
  code: Interlock['code'],
  named: readonly string[],
  begins: (count: number) => string,
  back: string,
): Interlock[] {
  if (named.length === 0) return [];
  const more = named.length > MOST_NAMED ? ' and more' : '';
  const sentence = `${begins(named.length)}: ${named.slice(0, MOST_NAMED).join('; ')}${more}.`;
  return [{ kind: 'interlock', code, sentence, back, serial: '', mayOverride: false }];
}

const MOST_NAMED = 20;
