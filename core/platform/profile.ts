import type { Profile } from '../../schemas/profile';
import type { Scheme } from '../layout/scheme';

export type { Profile } from '../../schemas/profile';

/** A family's limits on one scheme. Left-out limits are the arithmetic's own. */
export interface SchemeLimits {
  readonly fewest?: number;
  readonly most?: number;
  readonly even?: boolean;
  readonly widths?: readonly number[];
  readonly leftovers?: boolean;
  /** A mixed pool that survives one may begin with one drive, unguarded. */
  readonly alone?: boolean;
}

/** The limits this family sets on a scheme, or `undefined` when it does not offer it. */
export function limitsOf(profile: Profile, scheme: Scheme): SchemeLimits | undefined {
  return profile.schemes[scheme];
}
