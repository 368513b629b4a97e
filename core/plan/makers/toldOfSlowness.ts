import { hoursWords } from '../../quantity/hoursWords';
import type { Pool } from '../../unit/state';
import type { Draft } from './draftPlan';

/** For how long at least, in words. */
export function slowFor(hours: number | undefined): string {
  return hours === undefined ? 'as long as it takes' : `at least ${hoursWords(hours)}`;
}

/**
 * The step that has those who use a pool told that it is slow meanwhile, and above all that nobody helps by restarting it.
 *
 * @param how as in "it will be slow for days"
 * @param why what slows it, and what a restart does
 */
export function toldOfSlowness({ name }: Pick<Pool, 'name'>, how: string, why: string): Draft {
  return {
    id: 'told',
    title: `Tell the people who use ${name} that it ${how}, and that nobody switches it off`,
    why,
    maySkip: true,
  };
}
