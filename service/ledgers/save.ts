import type { DriveLife } from '../../core/driveLife/life';
import type { PlanRun } from '../../core/planRun/planRun';
import type { Hazard } from '../../core/unit/preview';
import type { UnitState } from '../../core/unit/state';
import type { LedgerName, Ledger } from '../../core/world/ledger';
import type { RecordedAct } from '../../core/world/record';
import { ledgerIn, type World } from '../../core/world/world';
import { canonicalJson } from '../../core/value/canonicalJson';
import { refusal, type Refusal } from '../../core/value/refusal';
import { insertAct } from '../../store/acts';
import type { Transaction } from '../../store/database';
import { drawerDrives, forgetLife, saveLives, type StoredLife } from '../../store/driveLives';
import { forgetDrivesOf } from '../../store/drives';
import { addMessages } from '../../store/messages';
import { forgetPlan, savePlan, type StoredPlan } from '../../store/plans';
import { holdAgainstDrawers } from '../../store/shelf';
import { forgetUnit, unitNamed, type StoredUnit } from '../../store/units';
import { project, reckonWaits } from './project';
import { whyNotKept } from './whyNotKept';

/** What was written, and how everything it touched stands now. */
export interface Done {
  readonly kind: 'done';
  readonly act: string;
  /** False for what was recorded before, and is answered as the first time. */
  readonly isNew: boolean;
  readonly versions: readonly (LedgerName & { readonly version: number })[];
  readonly units: readonly StoredUnit[];
  readonly drives: readonly StoredLife[];
  readonly plans: readonly StoredPlan[];
  readonly hazards: readonly Hazard[];
}

/** Written as it is given: by whom, when, and what it takes back, where that is not what is usual. */
export interface Kept {
  readonly recordedAt?: string | undefined;
  readonly takesBack?: string | undefined;
}

/**
 * Writes an act with everything that is computed of the ledgers it touched, in the transaction it was judged in.
 *
 * @param before the world it was judged in
 */
export async function save(
  tx: Transaction,
  before: World,
  recorded: RecordedAct,
  kept: Kept = {},
): Promise<Done | Refusal> {
  const { ledgers } = recorded;
  const unkept = whyNotKept(recorded);
  if (unkept) return unkept;
  for (const { kind, id, state } of ledgers) {
    if (kind !== 'unit' || state === null) continue;
    const { name } = state as UnitState;
    if ((ledgerIn(before, { kind, id }).state as UnitState | null)?.name === name) continue;
    const taken = await unitNamed(tx, name);
    if (taken !== undefined && taken !== id)
      return refusal('name-taken', `There is a unit called ${name} already.`, '/name');
  }
  await insertAct(tx, recorded, kept);
  await addMessages(tx, recorded.messages);

  const families = new Set<string>();
  const units: StoredUnit[] = [];
  const drives: StoredLife[] = [];
  const plans: StoredPlan[] = [];
  // Plans first: what a unit waits for is read off them.
  for (const ledger of ledgers) if (ledger.kind === 'plan') plans.push(...(await savedPlan(tx, ledger)));
  const touched = ledgers.filter(({ kind }) => kind === 'unit');
  // Drives may have moved between them: nowhere before anywhere.
  if (touched.length > 1)
    await forgetDrivesOf(
      tx,
      touched.map(({ id }) => id),
    );
  for (const ledger of touched) {
    const was = ledgerIn(before, ledger).state as UnitState | null;
    const [taught, teaches] = [lessonOf(was), lessonOf(ledger.state as UnitState | null)];
    if (taught?.text !== teaches?.text) for (const lesson of [taught, teaches]) if (lesson) families.add(lesson.family);
    if (ledger.state === null) {
      await forgetUnit(tx, ledger.id);
      continue;
    }
    const unit: StoredUnit = {
      id: ledger.id,
      version: ledger.version,
      lastHappenedAt: lastOf(ledger),
      state: ledger.state as UnitState,
    };
    await project(tx, unit, touched.length > 1 ? null : was);
    units.push(unit);
  }
  if (families.size > 0) await reckonWaits(tx, [...families]);
  for (const ledger of ledgers) {
    if (ledger.kind !== 'drive') continue;
    if (ledger.state === null) await forgetLife(tx, ledger.id);
    else drives.push({ version: ledger.version, lastHappenedAt: lastOf(ledger), life: ledger.state as DriveLife });
  }
  await saveLives(tx, drives);
  const inDrawer = (life: DriveLife | null): boolean => life?.where.kind === 'drawer';
  if (
    ledgers.some(
      (one) =>
        one.kind === 'drive' &&
        (inDrawer(one.state as DriveLife | null) || inDrawer(ledgerIn(before, one).state as DriveLife | null)),
    )
  )
    await holdAgainstDrawers(tx, await drawerDrives(tx));
  const versions = ledgers.map(({ kind, id, version }) => ({ kind, id, version }));
  return { kind: 'done', act: recorded.act.id, isNew: true, versions, units, drives, plans, hazards: recorded.hazards };
}

/** What a unit teaches others of its family; nothing where no work of it was finished. */
function lessonOf(unit: UnitState | null): { readonly family: string; readonly text: string } | null {
  if (!unit?.paces) return null;
  return { family: unit.profile.id, text: canonicalJson([unit.profile.id, unit.name, unit.paces]) };
}

async function savedPlan(tx: Transaction, ledger: Ledger): Promise<StoredPlan[]> {
  if (ledger.state === null) {
    await forgetPlan(tx, ledger.id);
    return [];
  }
  const plan: StoredPlan = {
    id: ledger.id,
    version: ledger.version,
    lastHappenedAt: lastOf(ledger),
    run: ledger.state as PlanRun,
  };
  await savePlan(tx, plan);
  return [plan];
}

function lastOf({ lastHappenedAt }: Ledger): string {
  return lastHappenedAt as string;
}
