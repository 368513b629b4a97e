import type { Profile } from '../platform/profile';
import type { Refusal } from '../value/refusal';
import { apply } from './apply';
import { enclosuresOf } from './enclosures';
import type { Enclosure, UnitState } from './state';

/** A unit that stands on no shelf: one that might be bought. */
export interface Described {
  readonly name: string;
  readonly profile: Profile;
  readonly bays: number;
  /** Its boxes; left out means as the family has them. */
  readonly enclosures?: readonly Enclosure[];
}

/**
 * A unit as it would be registered, with nothing in it: what is asked of units can be asked of it. Refused as its registration
 * would be.
 *
 * @param now ISO 8601
 */
export function describedUnit({ name, profile, bays, enclosures }: Described, now: string): UnitState | Refusal {
  const boxes = enclosures ?? enclosuresOf(profile, bays, []);
  return apply(
    null,
    {
      kind: 'unit-registered',
      name,
      place: { site: '', room: '' },
      profile,
      enclosures: boxes.map((box) => ({ ...box, bays: [...box.bays] })),
    },
    now,
  );
}
