import type { PlanBody } from '../../schemas/plan';
import type { PlanEvent } from './applyToPlan';

const PAGE_WORDS = { done: 'done', working: 'still at work', stopped: 'stopped', other: 'something else' } as const;

const AFTER_WRONG_WORDS = {
  'as-before': 'as before',
  thinner: 'thinner',
  rebuilds: 'rebuilds onto it',
  stopped: 'stopped',
  'asks-to-erase': 'asks to erase',
} as const;

/**
 * What an entry of a plan's own ledger says, in a sentence.
 *
 * @param steps the steps of that plan: a step is called by its title
 */
export function planEventWords(event: PlanEvent, steps: PlanBody['steps']): string {
  const step = (id: string): string => `“${steps.find((one) => one.id === id)?.title ?? 'a step'}”`;
  switch (event.kind) {
    case 'plan-started':
      return `Plan begun: ${event.body.title}.`;
    case 'step-done':
      return `Done: ${step(event.step)}.`;
    case 'step-skipped':
      return `Left out: ${step(event.step)}, ${event.reason}.`;
    case 'step-refused':
      return `Stopped at ${step(event.step)}: ${event.sentence}`;
    case 'page-said':
      return `Asked what its page shows: ${PAGE_WORDS[event.says]}${event.note === undefined ? '' : `, ${event.note}`}.`;
    case 'wrong-drive-out':
      return `${event.serial} was pulled by mistake at ${step(event.step)}, and put back; its page: ${AFTER_WRONG_WORDS[event.says]}${event.note === undefined ? '' : `, ${event.note}`}.`;
    case 'plan-paused':
      return `The plan rests: “${event.note}”`;
    case 'plan-ended':
      return `Plan ${event.how}${event.note === undefined ? '' : `: ${event.note}`}.`;
    case 'taken-back':
      return `Taken back: ${event.reason}.`;
  }
}
