import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { addToPool } from './added';
import type { BuiltPool, PoolDrive } from './builtPool';

/** What one more drive gives a built pool, in a number and a sentence; 0 with the reason where it gives nothing. */
export function oneMoreDrive(
  profile: Profile,
  pool: BuiltPool,
  members: ReadonlyMap<string, PoolDrive>,
  bytes: number,
): { readonly gainedBytes: number; readonly sentence: string } {
  const added = addToPool(profile, pool, members, [{ name: 'one more', bytes }]);
  return isRefusal(added)
    ? { gainedBytes: 0, sentence: added.sentence }
    : { gainedBytes: added.gainedBytes, sentence: added.sentence };
}
