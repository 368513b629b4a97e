import { isRefusal, type Refusal } from '../value/refusal';
import type { ActEntry } from './act';
import { rulesOf } from './ledger';
import { ledgerIn, withLedgers, type World } from './world';

/**
 * The world with entries counted in that are not recorded yet: for a browser that works without a network, on the ledgers
 * it has. What they mean for other ledgers is left to `record`.
 */
export function ahead(world: World, entries: readonly ActEntry[], happenedAt: string): World | Refusal {
  let after = world;
  for (const { ledger: name, event } of entries) {
    const ledger = ledgerIn(after, name);
    const state = rulesOf(name)(ledger.state, event, happenedAt);
    if (isRefusal(state)) return state;
    after = withLedgers(after, [{ ...ledger, state }]);
  }
  return after;
}
