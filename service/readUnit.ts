import { isRefusal } from '../core/value/refusal';
import { latestReadings, type Reading } from '../store/readings';
import { eventsOf, type LedgerRow, type StoredUnit } from '../store/units';
import type { App } from './app';
import { findUnit } from './unitOperations';

export interface UnitPage extends StoredUnit {
  readonly fill: readonly Reading[];
  /** Newest first. */
  readonly ledger: readonly LedgerRow[];
}

/** One unit with its ledger; `null` when there is none at this address. */
export async function readUnit(app: App, id: string): Promise<UnitPage | null> {
  const unit = await findUnit(app, id);
  if (isRefusal(unit)) return null;
  const [events, readings] = await Promise.all([eventsOf(app.db, unit.id), latestReadings(app.db, 'used-bytes')]);
  const ledger = [...events].sort((a, b) => (a.happenedAt === b.happenedAt ? b.seq - a.seq : a.happenedAt < b.happenedAt ? 1 : -1));
  return { ...unit, ledger, fill: readings.filter((reading) => reading.unit === unit.id) };
}
