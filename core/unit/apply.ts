import { frozen } from '../value/frozen';
import { refusal, type Refusal } from '../value/refusal';
import { setCache } from './applyCache';
import { confirmCopy, describeCopy, describeDataSet, handOverData, removeCopy, removeDataSet } from './applyCopies';
import { clearDrive, failDrive, insert, removeDrive, returnDrive, suspectDrive, takeOutOfService } from './applyDrive';
import { endJob, finishJob, progressJob, restartJob, startJob, takeOver, withJob } from './applyJob';
import { beginPlan, endPlanHere, passStep, restPlan } from './applyPlanHere';
import { bringPoolBack, giveUpPool, stopPool } from './applyPoolServed';
import { packUnit, unpackUnit } from './applyPacked';
import { retireUnit } from './retireUnit';
import { bringPool, fillPool, leavePool, takeInData } from './applyPoolMoved';
import { assignSpare, createPool, destroyPool, releaseSpare, reshapePool, restorePool } from './applyPool';
import * as box from './applyUnit';
import type { UnitEvent } from './event';
import type { UnitState } from './state';

/** What may still be written down of a unit that is out of use. */
const AFTERWARDS: ReadonlySet<UnitEvent['kind']> = new Set(['noted', 'unit-described', 'plan-ended', 'taken-back']);

/**
 * The unit after an event. Total over everything that can physically happen, disasters included; refuses only what
 * cannot have happened, such as a drive into an occupied bay.
 *
 * The one model: the ledger folds recorded events through it, the planner intended ones.
 *
 * @param unit `null` before the unit is registered
 * @param happenedAt ISO 8601, UTC
 */
export function apply(unit: UnitState | null, event: UnitEvent, happenedAt: string): UnitState | Refusal {
  if (event.kind === 'unit-registered')
    return unit === null
      ? box.register(event, happenedAt)
      : refusal('already-registered', `${unit.name} is registered already.`);
  if (unit === null) return refusal('not-registered', 'Nothing can happen to a unit before it is registered.');
  if (unit.retired && !AFTERWARDS.has(event.kind))
    return refusal('retired', `${unit.name} was retired: take that back first, where it is in use after all.`, '/kind');
  switch (event.kind) {
    case 'drive-inserted':
      return insert(unit, event, happenedAt);
    case 'unit-retired':
      return retireUnit(unit, event, happenedAt);
    case 'stock-taken':
      return frozen<UnitState>({ ...unit, stock: { at: happenedAt, lines: event.lines } });
    case 'drive-removed':
      return removeDrive(unit, event);
    case 'drive-suspected':
      return suspectDrive(unit, event);
    case 'drive-cleared':
      return clearDrive(unit, event);
    case 'drive-failed':
      return failDrive(unit, event);
    case 'drive-taken-out-of-service':
      return takeOutOfService(unit, event);
    case 'drive-returned':
      return returnDrive(unit, event);
    case 'pool-created':
      return createPool(unit, event, happenedAt);
    case 'pool-grown':
    case 'pool-converted':
      return reshapePool(unit, event);
    case 'pool-restored':
      return restorePool(unit, event);
    case 'pool-stopped':
      return stopPool(unit, event, happenedAt);
    case 'pool-back':
      return bringPoolBack(unit, event, happenedAt);
    case 'pool-lost':
      return giveUpPool(unit, event, happenedAt);
    case 'pool-left':
      return leavePool(unit, event, happenedAt);
    case 'pool-arrived':
      return bringPool(unit, event, happenedAt);
    case 'pool-contents':
      return fillPool(unit, event);
    case 'data-handed-over':
      return handOverData(unit, event, happenedAt);
    case 'data-arrived':
      return takeInData(unit, event);
    case 'unit-packed':
      return packUnit(unit, event, happenedAt);
    case 'unit-unpacked':
      return unpackUnit(unit);
    case 'pool-destroyed':
      return destroyPool(unit, event);
    case 'cache-set':
      return setCache(unit, event);
    case 'spare-released':
      return releaseSpare(unit, event);
    case 'spare-assigned':
      return assignSpare(unit, event);
    case 'spare-took-over':
      return takeOver(unit, event, happenedAt);
    case 'volume-set':
      return box.setVolume(unit, event);
    case 'volume-removed':
      return box.removeVolume(unit, event);
    case 'job-started':
      return startJob(unit, event, happenedAt);
    case 'job-progressed':
      return progressJob(unit, event, happenedAt);
    case 'job-restarted':
      return restartJob(unit, event, happenedAt);
    case 'job-finished':
      return withJob(unit, event.job, (job) => finishJob(unit, job));
    case 'job-aborted':
      return withJob(unit, event.job, (job) => endJob(unit, job.id));
    case 'power':
      return frozen<UnitState>({ ...unit, power: event.on ? 'on' : 'off' });
    case 'part-lost':
      return box.losePart(unit, event, happenedAt);
    case 'part-back':
      return box.regainPart(unit, event);
    case 'enclosure-added':
      return box.addEnclosure(unit, event);
    case 'enclosure-lost':
      return box.loseEnclosure(unit, event);
    case 'enclosure-back':
      return box.regainEnclosure(unit, event);
    case 'firmware-updated':
      return box.updateFirmware(unit, event, happenedAt);
    case 'unit-described':
      return box.describeUnit(unit, event);
    case 'sign-noted':
      return box.noteSign(unit, event, happenedAt);
    case 'signs-cleared':
      return frozen({ ...unit, signs: [] });
    case 'drives-counted':
      return box.countDrives(unit, event, happenedAt);
    case 'round-walked':
      return box.walkRound(unit, event, happenedAt);
    case 'check-confirmed':
      return frozen({ ...unit, confirmed: { ...unit.confirmed, [event.check]: happenedAt } });
    case 'speed-measured':
      return box.measureSpeed(unit, event, happenedAt);
    case 'data-set-described':
      return describeDataSet(unit, event);
    case 'data-set-removed':
      return removeDataSet(unit, event);
    case 'copy-described':
      return describeCopy(unit, event, happenedAt);
    case 'copy-removed':
      return removeCopy(unit, event);
    case 'copy-confirmed':
      return confirmCopy(unit, event, happenedAt);
    case 'upkeep-planned':
      return box.planUpkeep(unit, event);
    case 'upkeep-dropped':
      return box.dropUpkeep(unit, event);
    case 'upkeep-done':
      return frozen({ ...unit, upkeepDone: { ...unit.upkeepDone, [event.task]: happenedAt } });
    case 'plan-began':
      return beginPlan(unit, event, happenedAt);
    case 'plan-step':
      return passStep(unit, event);
    case 'plan-paused':
      return restPlan(unit, event, happenedAt);
    case 'plan-ended':
      return endPlanHere(unit, event);
    case 'noted':
    case 'taken-back':
      // A note changes nothing; what is taken back is left out by the fold.
      return unit;
  }
}
