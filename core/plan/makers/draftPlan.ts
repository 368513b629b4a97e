import { frozen } from '../../value/frozen';
import type { PlanStep } from '../plan';

/** A step as it is drafted: what is usual may be left out. */
export type Draft = Omit<PlanStep, 'part' | 'after' | 'asks' | 'does' | 'kind'> &
  Partial<Pick<PlanStep, 'asks' | 'does' | 'kind'>> & { readonly after?: readonly string[] };

export interface PlanDraft {
  readonly steps: PlanStep[];
  /** The heading of the steps that follow. */
  readonly under: (part: string) => void;
  /** Adds a step: a check by tick that changes nothing, unless it says otherwise. Returns its id. */
  readonly add: (draft: Draft) => string;
  /** The same, to be done after the step added before it. */
  readonly then: (draft: Draft) => string;
}

/** A plan as it is written down, step after step. */
export function draftPlan(): PlanDraft {
  const steps: PlanStep[] = [];
  let part = '';
  const add = (draft: Draft): string => {
    const { after = [], asks = { kind: 'tick' }, does = [], kind = 'check', ...rest } = draft;
    steps.push(frozen({ ...rest, part, kind, asks, does, after: [...after] }));
    return draft.id;
  };
  const then = (draft: Draft): string => {
    const last = steps.at(-1)?.id;
    return add({ ...draft, after: [...(draft.after ?? []), ...(last === undefined ? [] : [last])] });
  };
  return { steps, under: (named) => void (part = named), add, then };
}
