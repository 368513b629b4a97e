import { YEAR_DAYS } from '../quantity/year';
import type { UnitState, UpkeepTask } from '../unit/state';

/** Days in what an upkeep task counts in; `once` never comes again. */
const DAYS: Readonly<Record<UpkeepTask['unit'], number>> = {
  day: 1,
  week: 7,
  month: 30.4,
  year: YEAR_DAYS,
  once: Infinity,
};

/** Days between two scrubs as the unit's upkeep has it; `null` where none is planned. */
export function scrubDaysOf(unit: Pick<UnitState, 'upkeep'>): number | null {
  const every = Object.values(unit.upkeep)
    .filter(({ id }) => id === 'scrub')
    .map((task) => Math.round(task.every * DAYS[task.unit]));
  return every.length === 0 || !Number.isFinite(Math.min(...every)) ? null : Math.max(1, Math.min(...every));
}
