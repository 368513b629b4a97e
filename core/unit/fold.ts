import { foldLedger } from '../ledger/fold';
import { refusal, type Refusal } from '../value/refusal';
import { apply } from './apply';
import type { RecordedEvent } from './event';
import type { UnitState } from './state';

/** The unit after all its entries (see {@link foldLedger}); a refusal where there is none. */
export function foldUnit(events: readonly RecordedEvent[]): UnitState | Refusal {
  return foldLedger(events, apply) ?? refusal('not-registered', 'There are no events of this unit.');
}
