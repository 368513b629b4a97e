import { ERROR_METRICS } from '../../core/upkeep/need';
import type { Transaction } from '../../store/database';
import { addReadings, type Reading } from '../../store/readings';
import { unitLedger } from '../../core/world/ledger';
import { lockLedgers } from '../../store/acts';
import { unitById } from '../../store/units';
import { projectReckoned } from '../ledgers/project';

/** Readings by which something may need hands. */
const TELLING: ReadonlySet<string> = new Set(['used-bytes', 'life-left', ...ERROR_METRICS]);

/** Adds readings, and makes what needs hands anew where a fill, a count of errors or a rated life has changed. Returns how many were new. */
export async function addMeasured(tx: Transaction, readings: readonly Reading[]): Promise<number> {
  const added = await addReadings(tx, readings);
  const told = [...new Set(readings.flatMap(({ unit, metric }) => (TELLING.has(metric) ? unit : [])))];
  await lockLedgers(tx, told.map(unitLedger));
  for (const id of told) {
    const unit = await unitById(tx, id);
    if (unit) await projectReckoned(tx, unit);
  }
  return added;
}
