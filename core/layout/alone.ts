import { limitsOf, type Profile } from '../platform/profile';
import { factsOf, type Scheme } from './scheme';

/**
 * True where a family lets a pool of this scheme begin with one drive alone: nothing guards it so long, and a second drive
 * makes it a mirror. Only a pool cut at sizes that survives one can: two drives are then what its bands are made of.
 */
export function mayBeginAlone(profile: Profile, scheme: Scheme): boolean {
  const { built, redundancy } = factsOf(scheme);
  return built === 'cut' && redundancy === 1 && limitsOf(profile, scheme)?.alone === true;
}
