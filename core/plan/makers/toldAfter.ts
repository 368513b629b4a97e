import type { Pool } from '../../unit/state';
import type { PlanDraft } from './draftPlan';

/** Adds the last step of a plan that gives room: the people who use it hear of it. */
export function toldAfter({ then }: PlanDraft, { name }: Pick<Pool, 'name'>): void {
  then({
    id: 'told-after',
    title: `Tell the people who use ${name} that it is done`,
    why: 'And how much room there is, and until when it is meant to last.',
    maySkip: true,
  });
}
