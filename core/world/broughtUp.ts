import type { LedgerKind } from './ledger';

/** The version of the shapes entries are written in now. */
export const SHAPE = 1;

/** An event as it was written, whatever its shape. */
interface Written {
  readonly kind: string;
}

/** Brings an event of the version that is its place in the list, counted from 1, up to the next. */
type Step = (ledger: LedgerKind, event: Written) => Written;
const STEPS: readonly Step[] = [];

/**
 * An event in today's shape. Entries are never written anew: one of an older shape is brought up on reading, by one
 * function a version.
 *
 * @param shape the version it was written in, 1 to {@link SHAPE}
 */
export function broughtUp(ledger: LedgerKind, event: Written, shape: number, steps: readonly Step[] = STEPS): Written {
  return steps.slice(shape - 1).reduce((one, step) => step(ledger, one), event);
}
