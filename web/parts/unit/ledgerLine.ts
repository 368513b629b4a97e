/** An entry of a unit's ledger as it is shown. */
export interface LedgerLine {
  readonly seq: number;
  /** The act it came by. */
  readonly act: string;
  readonly happenedAt: string;
  readonly recordedAt: string;
  readonly recordedBy: string;
  readonly words: string;
  /** Why it does not count any more, where it does not. */
  readonly withdrawnFor: string | undefined;
  readonly mayWithdraw: boolean;
}
