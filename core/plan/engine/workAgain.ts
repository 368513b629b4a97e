import type { UnitEvent } from '../../unit/event';
import { freeName } from '../../unit/freeName';
import { isDown } from '../../unit/margin';
import { driveInBay, membersOf, poolOfDrive, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import type { PlanStep } from '../plan';
import { jobEnding } from './jobEnding';

/** Whether the work a step waits for is done by the record, by whatever way its end was heard: no step ends it again. */
export function isWorkDone(unit: UnitState, step: PlanStep): boolean {
  if (jobEnding(unit, step)) return false;
  return step.does.some((one) => {
    const pool = 'pool' in one && one.pool !== undefined ? entryOf(unit.pools, one.pool) : undefined;
    if (!pool) return false;
    if (one.kind === 'finish-rebuild') return !membersOf(pool).includes(one.replaces);
    return one.kind === 'finish-job' && entryOf(unit.workDone ?? {}, pool.id)?.includes(one.task) === true;
  });
}

/**
 * The work a step waits for, begun anew where it stopped before its end: on the drive that stands for it, from nothing. `null`
 * where the step waits for none, where it runs, or where there is nothing it could run on; and for a pool that has stopped as
 * a whole, on which nothing is started.
 */
export function workAgain(unit: UnitState, step: PlanStep): UnitEvent | null {
  if (step.kind !== 'wait' || jobEnding(unit, step) || isWorkDone(unit, step)) return null;
  for (const one of step.does) {
    const pool = 'pool' in one && one.pool !== undefined ? entryOf(unit.pools, one.pool) : undefined;
    if (!pool || isDown(pool)) continue;
    if (one.kind === 'finish-job')
      return { kind: 'job-started', job: freeName(unit.jobs, one.task), task: one.task, pool: pool.id };
    const drive = one.kind === 'finish-rebuild' && one.bay !== undefined ? driveInBay(unit, one.bay) : undefined;
    if (one.kind !== 'finish-rebuild' || !drive || !membersOf(pool).includes(one.replaces)) continue;
    const owner = poolOfDrive(unit, drive.serial);
    if (owner && membersOf(owner).includes(drive.serial)) continue;
    return {
      kind: 'job-started',
      job: freeName(unit.jobs, 'rebuild'),
      task: one.task ?? 'rebuild',
      pool: pool.id,
      replaces: one.replaces,
      onto: drive.serial,
    };
  }
  return null;
}
