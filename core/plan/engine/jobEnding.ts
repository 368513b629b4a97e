import type { Job, UnitState } from '../../unit/state';
import type { PlanStep } from '../plan';

/** The work a step waits for the end of; `undefined` for a step that ends none, or none that runs. */
export function jobEnding(unit: UnitState, { does }: PlanStep): Job | undefined {
  return does.flatMap((one): Job[] => {
    if (one.kind === 'finish-rebuild')
      return Object.values(unit.jobs).filter(({ pool, replaces }) => pool === one.pool && replaces === one.replaces);
    return one.kind === 'finish-job'
      ? Object.values(unit.jobs).filter(({ pool, task }) => pool === one.pool && task === one.task)
      : [];
  })[0];
}
