import type { Band } from '../layout/band';
import { marginOf } from './marginOf';

/** True when no band loses more members than it may. */
export function isSurvived(bands: readonly Band[], missing: ReadonlySet<string>): boolean {
  return marginOf(bands, missing) >= 0;
}
