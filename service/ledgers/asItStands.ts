import type { DriveLife } from '../../core/driveLife/life';
import type { PlanRun } from '../../core/planRun/planRun';
import type { UnitState } from '../../core/unit/state';
import { nameText } from '../../core/world/ledger';
import { loadLedgers, type StoredAct } from '../../store/acts';
import type { Transaction } from '../../store/database';
import type { Done } from './save';

/** The answer to an act that was recorded before: the versions it left, and the ledgers as they stand now. */
export async function asItStands(tx: Transaction, { id, entries, happenedAt }: StoredAct): Promise<Done> {
  const left = new Map(
    entries.map((entry) => [nameText(entry), { kind: entry.kind, id: entry.id, version: entry.seq }]),
  );
  for (const entry of entries)
    if (entry.seq > (left.get(nameText(entry))?.version ?? 0))
      left.set(nameText(entry), { kind: entry.kind, id: entry.id, version: entry.seq });
  const versions = [...left.values()];
  const ledgers = await loadLedgers(tx, versions, '9999');
  const stored = ledgers.map((ledger) => ({ ...ledger, lastHappenedAt: ledger.lastHappenedAt ?? happenedAt }));
  const of = (kind: string) => stored.filter((ledger) => ledger.kind === kind && ledger.state !== null);
  return {
    kind: 'done',
    act: id,
    isNew: false,
    versions,
    units: of('unit').map((one) => ({
      id: one.id,
      version: one.version,
      lastHappenedAt: one.lastHappenedAt,
      state: one.state as UnitState,
    })),
    drives: of('drive').map((one) => ({
      version: one.version,
      lastHappenedAt: one.lastHappenedAt,
      life: one.state as DriveLife,
    })),
    plans: of('plan').map((one) => ({
      id: one.id,
      version: one.version,
      lastHappenedAt: one.lastHappenedAt,
      run: one.state as PlanRun,
    })),
    hazards: [],
  };
}
