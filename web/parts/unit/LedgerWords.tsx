import type { ReactNode } from 'react';

/** A line of a ledger: struck through with the reason once it was withdrawn, never gone. */
export function LedgerWords({
  words,
  withdrawnFor,
}: {
  readonly words: string;
  readonly withdrawnFor: string | undefined;
}): ReactNode {
  if (withdrawnFor === undefined) return words;
  return (
    <>
      <s className="text-muted">{words}</s> <span className="text-sm text-muted">withdrawn: {withdrawnFor}</span>
    </>
  );
}
