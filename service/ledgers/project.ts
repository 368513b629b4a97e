import { roleOf } from '../../core/unit/roleOf';
import { compareBays } from '../../core/quantity/bayOrder';
import { waitsForJob } from '../../core/planRun/progress';
import { estimateOfJob } from '../../core/rebuild/estimateOfJob';
import { bayName } from '../../core/unit/bayName';
import { poolOfDrive, type UnitState } from '../../core/unit/state';
import { needsOf } from '../../core/upkeep/needsHands';
import { isOfFailure } from '../../core/observe/readLetter';
import type { WaitingLetters, WatchStanding } from '../../core/upkeep/need';
import { canonicalJson } from '../../core/value/canonicalJson';
import type { Transaction } from '../../store/database';
import { drawerDrives } from '../../store/driveLives';
import { replaceDrivesOf, type StandingDrive } from '../../store/drives';
import { lettersWaiting } from '../../store/letters';
import { openPlansOf } from '../../store/plans';
import { growingCounts, lifeLeft, usedOf } from '../../store/readings';
import { saveEstimate, saveNeeds, saveWaits, unitsAtWork, type UnitWait } from '../../store/shelf';
import { watchOf } from '../../store/watches';
import { saveSnapshot, type StoredUnit } from '../../store/units';
import { readWorkKnown } from '../units/readWorkKnown';
import { isDown } from '../../core/unit/margin';

/** Writes what is computed of a unit; in the same transaction as the entries that changed it. */
export async function project(tx: Transaction, stored: StoredUnit, before: UnitState | null = null): Promise<void> {
  const unit = ordered(stored);
  await saveSnapshot(tx, unit);
  const drives = standingDrives(unit);
  // Most of what is recorded moves no drive.
  if (before === null || canonicalJson(standingDrives({ ...unit, state: before })) !== canonicalJson(drives))
    await replaceDrivesOf(tx, unit.id, drives);
  await projectReckoned(tx, unit);
}

/** What needs hands at a unit, now or later, and when its work is done; also made again when a reading comes in. */
export async function projectReckoned(tx: Transaction, stored: StoredUnit): Promise<void> {
  const { id, state } = ordered(stored);
  const used = await usedOf(tx, Object.keys(state.pools));
  const [watch, letters] = [await standingOf(tx, id), await lettersOf(tx, id, state)];
  await saveNeeds(
    tx,
    id,
    needsOf({
      id,
      state,
      used,
      growing: await growingCounts(tx, id),
      life: await lifeLeft(tx, Object.keys(state.drives)),
      ...(watch ? { watch } : {}),
      ...(letters ? { letters } : {}),
    }),
    await drawerDrives(tx),
  );
  await saveWaits(tx, id, await waitsOf(tx, id, state, used));
}

/**
 * When work under way will be done, reckoned anew: at the units of some families, of which one has learnt, or at all. Only
 * that: a unit that somebody records at in the same moment reckons for itself.
 */
export async function reckonWaits(tx: Transaction, families?: readonly string[]): Promise<void> {
  for (const unit of await unitsAtWork(tx, families)) {
    const state = inOrder(unit.state);
    const known = await readWorkKnown(tx, [state], await usedOf(tx, Object.keys(state.pools)));
    for (const job of Object.values(state.jobs))
      await saveEstimate(tx, unit.id, {
        job: job.id,
        heardAt: job.heardAt,
        estimate: estimateOfJob(state, job, known),
      });
  }
}

/** So often in a row a unit may give no answer before somebody has to look: once may be a restart. */
export const FAILS_TOLD = 3;

async function standingOf(tx: Transaction, unit: string): Promise<WatchStanding | undefined> {
  const watch = await watchOf(tx, unit);
  if (!watch?.isOn) return undefined;
  const isSilent = watch.fails >= FAILS_TOLD && watch.silentSince !== null;
  return {
    doubtful: watch.seen?.doubtful ?? [],
    ...(isSilent ? { silentSince: watch.silentSince as string } : {}),
    ...(isSilent && watch.trouble ? { why: watch.trouble.sentence } : {}),
  };
}

/** More mails than this are not read again each time: there is enough to look at. */
const MOST_LETTERS = 20;

async function lettersOf(tx: Transaction, unit: string, state: UnitState): Promise<WaitingLetters | undefined> {
  const waiting = await lettersWaiting(tx, unit, MOST_LETTERS);
  const grave = waiting.find((one) => isOfFailure(state, one, one.writtenAt ?? one.cameAt));
  const shown = grave ?? waiting[0];
  return (
    shown && {
      count: waiting.length,
      subject: shown.subject,
      cameAt: shown.cameAt,
      isOfFailure: grave !== undefined,
    }
  );
}

/** Everything a unit is busy with, and when it will be done. */
async function waitsOf(
  tx: Transaction,
  id: string,
  state: UnitState,
  used: Readonly<Record<string, number>>,
): Promise<UnitWait[]> {
  // Nobody waits for what was running on a pool that is lost.
  const jobs = Object.values(state.jobs).filter(({ pool }) => {
    const of = state.pools[pool];
    return of === undefined || !isDown(of);
  });
  if (jobs.length === 0) return [];
  const known = await readWorkKnown(tx, [state], used);
  const plans = Object.keys(state.plans).length > 0 ? await openPlansOf(tx, id) : [];
  return jobs.map((job) => ({
    job: job.id,
    task: job.task,
    bay: bayOf(state, job.onto),
    percent: job.percent,
    startedAt: job.startedAt,
    heardAt: job.heardAt,
    estimate: estimateOfJob(state, job, known),
    plan: plans.find(({ run }) => waitsForJob(run, job))?.id ?? null,
  }));
}

/** The bay of the drive that is written, as the unit counts it. */
function bayOf(state: UnitState, serial: string | undefined): string | null {
  const bay = serial === undefined ? null : (state.drives[serial]?.bay ?? null);
  return bay === null ? null : bayName(state, bay);
}

/**
 * The database keeps the keys of an object in an order of its own; a state that was just folded has them as things
 * happened. In one order, what is computed of both is the same to the byte.
 */
function ordered(unit: StoredUnit): StoredUnit {
  return { ...unit, state: inOrder(unit.state) };
}

function inOrder(state: UnitState): UnitState {
  return JSON.parse(canonicalJson(state)) as UnitState;
}

function standingDrives({ id, state }: StoredUnit): StandingDrive[] {
  return Object.values(state.drives)
    .flatMap((drive): StandingDrive[] => {
      if (drive.bay === null) return [];
      const pool = poolOfDrive(state, drive.serial);
      const role = roleOf(state, drive.serial);
      const { serial, bay, bytes, model = null, condition, insertedAt } = drive;
      return [{ serial, unit: id, bay, bytes, model, condition, pool: pool?.id ?? null, role, insertedAt }];
    })
    .sort((a, b) => compareBays(a.bay, b.bay));
}
