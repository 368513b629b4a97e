import type { Pool } from '../../unit/state';
import type { Draft } from './draftPlan';

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
