import { daysAfter } from '../quantity/days';
import type { UnitState } from './state';

/** A unit whose pools moved away is kept as it is for so long: it is the way back (common practice). */
export const KEPT_DAYS = 14;

/** Until when a unit that was moved away from is kept as it is (ISO 8601); `undefined` of one that nothing left. */
export function keptUntil({ movedTo, leftAt }: Pick<UnitState, 'movedTo' | 'leftAt'>): string | undefined {
  const last = [movedTo?.at, leftAt]
    .flatMap((at) => at ?? [])
    .sort()
    .at(-1);
  return last === undefined ? undefined : daysAfter(last, KEPT_DAYS);
}
