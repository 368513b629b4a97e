import { rescueOf, type Rescue } from '../../core/rescue/rescueOf';
import { isRefusal } from '../../core/value/refusal';
import type { UnitEvent } from '../../core/unit/event';
import { unitLedger } from '../../core/world/ledger';
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
  return isRefusal(unit)
    ? null
    : { unit, rescue: rescueOf(unit.state, await entriesOf<UnitEvent>(app.db, unitLedger(unit.id))) };
}
