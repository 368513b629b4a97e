import type { TakenBack } from '../../schemas/takenBack';

export type { TakenBack };

/** An entry of a ledger: what happened, when (ISO 8601, UTC), its place in the ledger, and the act it came by. */
export interface Recorded<E> {
  readonly seq: number;
  readonly happenedAt: string;
  readonly event: E;
  /** Left out where a history is made up and nothing of it is taken back. */
  readonly act?: string;
}
