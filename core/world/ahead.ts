import { isRefusal, type Refusal } from '../value/refusal';
import type { ActEntry } from './act';
import { contentsOf, type PoolContents } from '../unit/applyPoolMoved';
import type { Of } from '../unit/event';
import type { UnitState } from '../unit/state';
import { rulesOf, type AnyEvent } from './ledger';
import { ledgerIn, withLedgers, type World } from './world';

/**
 * The world with entries counted in that are not recorded yet: for a browser that works without a network, on the ledgers
 * it has. What they mean for other ledgers is left to `record`.
 */
export function ahead(world: World, entries: readonly ActEntry[], happenedAt: string): World | Refusal {
  let after = world;
  const left = new Map<string, PoolContents>();
  for (const { ledger: name, event } of entries) {
    const ledger = ledgerIn(after, name);
    if (event.kind === 'pool-left') left.set(event.pool, contentsOf(ledger.state as UnitState, event.pool));
    const contents = event.kind === 'pool-arrived' ? left.get(event.pool) : undefined;
    // What is in a pool comes along with it.
    const along = contents ? [{ kind: 'pool-contents', pool: (event as Of<'pool-arrived'>).pool, ...contents }] : [];
    for (const one of [event, ...along] as AnyEvent[]) {
      const now = ledgerIn(after, name);
      const state = rulesOf(name)(now.state, one, happenedAt);
      if (isRefusal(state)) return state;
      after = withLedgers(after, [{ ...now, state }]);
    }
  }
  return after;
}
