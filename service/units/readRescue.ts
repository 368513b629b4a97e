import { rescueOf, type Rescue } from '../../core/rescue/rescueOf';
import { isRefusal } from '../../core/value/refusal';
import type { UnitEvent } from '../../core/unit/event';
import { unitLedger } from '../../core/world/ledger';
import { poolsOf } from '../../core/unit/state';
import { lifeOf } from '../../store/driveLives';
import { entriesOf } from '../../store/acts';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { findUnit } from './findUnit';

/** A unit and its rescue desk, by its ledger; `null` when there is no such unit. */
export async function readRescue(
  app: App,
  id: string | undefined,
): Promise<{ readonly unit: StoredUnit; readonly rescue: Rescue } | null> {
  const unit = await findUnit(app, id);
  if (isRefusal(unit)) return null;
  const out = poolsOf(unit.state)
    .flatMap(({ missing }) => missing)
    .filter((serial) => unit.state.drives[serial]?.bay == null);
  const lives = await Promise.all(out.map((serial) => lifeOf(app.db, serial)));
  const places = Object.fromEntries(
    out.flatMap((serial, i) => (lives[i] ? [[serial, lives[i].life.where] as const] : [])),
  );
  return { unit, rescue: rescueOf(unit.state, await entriesOf<UnitEvent>(app.db, unitLedger(unit.id)), places) };
}
