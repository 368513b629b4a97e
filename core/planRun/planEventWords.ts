import type { PlanEvent } from './applyToPlan';

const PAGE_WORDS = { done: 'done', working: 'still at work', stopped: 'stopped', other: 'something else' } as const;

/** What an entry of a plan's own ledger says, in a sentence. */
export function planEventWords(event: PlanEvent): string {
  const step = (id: string): string => id.replaceAll('-', ' ');
  switch (event.kind) {
    case 'plan-started':
      return `Plan begun: ${event.body.title}.`;
    case 'step-done':
      return `Step done: ${step(event.step)}.`;
    case 'step-skipped':
      return `Step left out: ${step(event.step)}, ${event.reason}.`;
    case 'step-refused':
      return `A step was stopped: ${event.sentence}`;
    case 'page-said':
      return `Asked what its page shows: ${PAGE_WORDS[event.says]}${event.note === undefined ? '' : `, ${event.note}`}.`;
    case 'plan-paused':
      return `The plan rests: “${event.note}”`;
    case 'plan-ended':
      return `Plan ${event.how}${event.note === undefined ? '' : `: ${event.note}`}.`;
    case 'taken-back':
      return `Taken back: ${event.reason}.`;
  }
}
