import type { Work } from '../store/database';
import { addReadings, type Reading } from '../store/readings';
import { lockUnit } from '../store/units';
import { projectNeeds } from './unitLedger';

/** Adds readings, and makes what needs hands anew where a fill has changed. Returns how many were new. */
export async function addMeasured(work: Work, readings: readonly Reading[]): Promise<number> {
  const added = await addReadings(work, readings);
  for (const id of [...new Set(readings.flatMap(({ unit, metric }) => (metric === 'used-bytes' ? unit : [])))].sort()) {
    const unit = await lockUnit(work, id);
    if (unit) await projectNeeds(work, unit);
  }
  return added;
}
