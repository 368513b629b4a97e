import type { Profile } from '../platform/profile';
import { dayOf } from '../quantity/days';
import type { Of } from '../unit/event';
import type { UnitState, UpkeepTask } from '../unit/state';
import { nextOccurrence } from './occurrence';

export interface DueTask extends UpkeepTask {
  /** The day it is next due; `null` for a rule that never comes again. */
  readonly due: string | null;
  readonly lastDone: string | null;
}

/** A unit's upkeep with when each task is next due: the first day of its rule after the day it was last done. */
export function upkeepOf(unit: UnitState): DueTask[] {
  return Object.values(unit.upkeep).map((task) => {
    const lastDone = unit.upkeepDone[task.id] ?? null;
    return { ...task, lastDone, due: nextOccurrence(task, lastDone === null ? undefined : dayOf(lastDone)) };
  });
}

/**
 * The upkeep a unit of a family usually gets (common practice), as the event that plans it. The person changes it as they
 * like.
 *
 * @param from the day it is counted from
 */
export function usualUpkeep({ software, roaming }: Profile, from: string): Of<'upkeep-planned'> {
  const start = (months: number): string =>
    nextOccurrence({ from: safeDay(from), every: months, unit: 'month' }, from) ?? from;
  const task = (id: string, title: string, every: number): UpkeepTask => ({
    id,
    title,
    every,
    unit: 'month',
    from: start(every),
  });
  const tasks = [
    task('scrub', 'Read everything to check it (scrub)', 1),
    task('health-test', 'Long health test of every drive', 3),
    task('restore-trial', 'Try a restore from the backup', 6),
    task('alarm-mail', 'Send a test alarm and see it arrive', 6),
    task('firmware', 'Look for firmware, read what it changes', 6),
    ...(software.configurationExport
      ? [task('configuration', 'Export the configuration and keep it elsewhere', 6)]
      : []),
    ...(roaming.flashStick ? [task('flash-stick', 'Copy the flash stick and photograph the drive roles', 6)] : []),
    task('dust', 'Look at dust, fans and cables', 12),
  ];
  return { kind: 'upkeep-planned', tasks };
}

/** A day every month has. */
function safeDay(day: string): string {
  return Number(day.slice(8)) > 28 ? `${day.slice(0, 8)}28` : day;
}
