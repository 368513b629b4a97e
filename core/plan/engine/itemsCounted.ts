import { refusal, type Refusal } from '../../value/refusal';
import type { PlanStep, StepEvidence } from '../plan';

type Items = Extract<StepEvidence, { kind: 'items' }>;

/** "2 keys, 1 cable". */
export function itemsWords(items: Items['missing']): string {
  return items.map(({ what, count }) => `${String(count)} ${what}`).join(', ');
}

/** What is said to be missing is one of what was to be counted, and no more of it. */
export function whyNotItems(asks: PlanStep['asks'], { missing }: Items): Refusal | undefined {
  if (asks.kind !== 'items') return undefined;
  for (const [i, { what, count }] of missing.entries()) {
    const here = `/evidence/missing/${String(i)}`;
    const item = asks.items.find((one) => one.what === what);
    if (!item)
      return refusal(
        'item-unknown',
        `“${what}” is not on the list: ${asks.items.map((one) => one.what).join(', ')}.`,
        `${here}/what`,
      );
    if (count > item.count)
      return refusal(
        'out-of-range',
        `Of ${String(item.count)} ${what} not ${String(count)} can be missing.`,
        `${here}/count`,
      );
    if (missing.slice(0, i).some((one) => one.what === what))
      return refusal('item-twice', `“${what}” is in the list twice.`, `${here}/what`);
  }
  return undefined;
}
