import type { Known } from '../../core/plan/engine/timeline';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { readThoughts } from '../drives/ownRates';
import { readUsed } from '../units/readUnit';

/** What the risk of a plan rests on beside the states of its units: how full their pools are, and what is thought of their drives. */
export async function readKnown(app: App, units: readonly StoredUnit[], now: Date): Promise<Required<Known>> {
  const [used, thought] = await Promise.all([
    readUsed(app, ...units),
    readThoughts(
      app,
      now,
      units.map(({ state }) => state),
    ),
  ]);
  return { used, thought };
}
