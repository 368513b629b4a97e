import { refusal, type Refusal } from '../value/refusal';
import type { DriveLife } from './life';

/**
 * Why a drive cannot be back in a pool with what it held: it left its bay, and has been wiped, in another unit or in another
 * pool since. One that never left, as after a loose cable, can.
 *
 * @param pool the pool it is said to be whole in
 */
export function whyNotWhole({ serial, holds }: DriveLife, pool: string): Refusal | undefined {
  if (holds === undefined || holds?.pool === pool) return undefined;
  const since =
    holds === null
      ? 'it was emptied since, or stood in another unit'
      : `it was a member of ${holds.name} in ${holds.unitName} since`;
  return refusal('not-whole', `${serial} cannot be whole: ${since}. It comes back empty: rebuild onto it.`);
}
