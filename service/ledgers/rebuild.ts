import type { DriveLife } from '../../core/driveLife/life';
import { foldLedger } from '../../core/ledger/fold';
import type { PlanRun } from '../../core/planRun/planRun';
import type { UnitState } from '../../core/unit/state';
import { isRefusal } from '../../core/value/refusal';
import { LEDGER_KINDS, rulesOf, type AnyEvent, type AnyState, type LedgerName } from '../../core/world/ledger';
import { entriesOf, ledgersOfKind } from '../../store/acts';
import type { Database, Transaction } from '../../store/database';
import { drawerDrives, forgetLives, saveLives } from '../../store/driveLives';
import { forgetPlans, savePlan } from '../../store/plans';
import { rebuildReadings } from '../../store/readings';
import { holdAgainstDrawers } from '../../store/shelf';
import { forgetProjections } from '../../store/units';
import { project, reckonWaits } from './project';

/** Forgets every projection and makes them again from the ledgers and readings alone. Returns how many units there are. */
export async function rebuildProjections(db: Database): Promise<number> {
  return db.transaction().execute(async (tx) => {
    await forgetProjections(tx);
    await forgetLives(tx);
    await forgetPlans(tx);
    await rebuildReadings(tx);
    let units = 0;
    for (const kind of LEDGER_KINDS)
      for (const id of await ledgersOfKind(tx, kind)) {
        const made = await folded(tx, { kind, id });
        if (made && kind === 'unit') units++;
      }
    await holdAgainstDrawers(tx, await drawerDrives(tx));
    // What units teach one another is known once all are there.
    await reckonWaits(tx);
    return units;
  });
}

/** One ledger's snapshot, made from its entries; false where none of them counts. */
async function folded(tx: Transaction, name: LedgerName): Promise<boolean> {
  const entries = await entriesOf(tx, name);
  const state = foldLedger<AnyState, AnyEvent>(entries, rulesOf(name));
  if (isRefusal(state)) throw new Error(`The ledger of ${name.kind} ${name.id} does not fold: ${state.sentence}`);
  if (state === null) return false;
  const { id } = name;
  const version = entries.length;
  const lastHappenedAt = entries.map(({ happenedAt }) => happenedAt).reduce((a, b) => (a > b ? a : b));
  if (name.kind === 'unit') await project(tx, { id, version, lastHappenedAt, state: state as UnitState });
  else if (name.kind === 'drive') await saveLives(tx, [{ version, lastHappenedAt, life: state as DriveLife }]);
  else await savePlan(tx, { id, version, lastHappenedAt, run: state as PlanRun });
  return true;
}
