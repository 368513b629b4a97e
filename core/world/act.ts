import type { TakenBack } from '../ledger/recorded';
import type { AnyEvent, LedgerName } from './ledger';

/** Who did it: a person or a token by id, the name for display only; or the watch, an import, the demo. */
export interface Actor {
  readonly kind: 'person' | 'token' | 'watch' | 'import' | 'demo';
  readonly id: string | null;
  readonly name: string;
}

export interface ActEntry {
  readonly ledger: LedgerName;
  readonly event: AnyEvent;
}

/** What somebody records at once: entries over any number of ledgers, written whole or not at all. */
export interface Act {
  readonly kind: 'act';
  /** Made by its sender (uuid): the same act sent twice is written once. */
  readonly id: string;
  readonly by: Actor;
  /** ISO 8601, UTC. */
  readonly happenedAt: string;
  /** Its sender says when it happened; left out where it is taken for the moment it came. */
  readonly isDated?: boolean;
  /** The version of each ledger its author looked at; a ledger that is not named is taken as it is. */
  readonly expects: readonly (LedgerName & { readonly version: number })[];
  readonly entries: readonly ActEntry[];
}

/** One entry as it goes into its ledger. */
export interface Written extends LedgerName {
  readonly seq: number;
  readonly event: AnyEvent | TakenBack;
}
