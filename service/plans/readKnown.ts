import type { WorkKnown } from '../../core/rebuild/workKnown';
import type { Known } from '../../core/plan/engine/timeline';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { readThoughts } from '../drives/ownRates';
import { readUsed } from '../units/readUnit';
import { readWorkKnown } from '../units/readWorkKnown';

/**
 * What a plan rests on beside the states of its units: how full their pools are, what is thought of their drives, what their
 * work took so far.
 */
export async function readKnown(
  app: App,
  units: readonly StoredUnit[],
  now: Date,
): Promise<Required<Known> & { readonly work: WorkKnown }> {
  const [used, thought] = await Promise.all([
    readUsed(app, ...units),
    readThoughts(
      app,
      now,
      units.map(({ state }) => state),
    ),
  ]);
  return {
    used,
    thought,
    work: await readWorkKnown(
      app.db,
      units.map(({ state }) => state),
      used,
    ),
  };
}
