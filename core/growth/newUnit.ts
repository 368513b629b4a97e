import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';

/** A unit that might be bought, and the pool that would be made in it. */
export interface NewUnit {
  readonly profile: Profile;
  readonly scheme: Scheme;
  readonly groupWidth?: number;
  readonly bays: readonly string[];
  /** Of the unit without drives, the same in every month: only drives become cheaper. */
  readonly cents: number;
}
