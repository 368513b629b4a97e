import type { Media } from '../drive/media';
import type { Layout } from '../layout/layout';
import type { Profile } from '../platform/profile';
import { apply } from '../unit/apply';
import { describedUnit } from '../unit/describedUnit';
import type { UnitEvent } from '../unit/event';
import { poolCreated } from '../unit/poolCreated';
import type { Enclosure, Pool, UnitState } from '../unit/state';
import { isRefusal, type Refusal } from '../value/refusal';

/** A drive in hand, as far as its time ahead depends on it. */
export interface DriveInHand {
  readonly bay: string;
  readonly bytes: number;
  readonly media?: Media | undefined;
  readonly model?: string | undefined;
  /** A day, as 2026-01-31; left out means new. */
  readonly boughtOn?: string | undefined;
  readonly lot?: string | undefined;
}

const POOL = 'planned';

/**
 * A unit as it will be once a layout is built and its first build is done: made by the events that would be recorded, so that its
 * time ahead is asked of it like of any other. Drives go by the names of their bays.
 *
 * @param now ISO 8601
 */
export function unitOfLayout(
  profile: Profile,
  enclosures: readonly Enclosure[],
  layout: Layout,
  drives: readonly DriveInHand[],
  now: string,
): { readonly unit: UnitState; readonly pool: Pool } | Refusal {
  const created = poolCreated(layout, POOL, 'The pool', new Map(drives.map(({ bay }) => [bay, bay])));
  if (isRefusal(created)) return created;
  const events = [
    ...drives.map(({ bay, bytes, media, model, boughtOn, lot }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: {
        serial: bay,
        bytes,
        basis: 'exact',
        ...(media === undefined ? {} : { media }),
        ...(model === undefined ? {} : { model }),
        ...(boughtOn === undefined ? {} : { boughtOn }),
        ...(lot === undefined ? {} : { lot }),
      },
    })),
    created,
  ];
  let unit = describedUnit({ name: 'The unit', profile, bays: drives.length, enclosures }, now);
  for (const event of events) if (!isRefusal(unit)) unit = apply(unit, event, now);
  return isRefusal(unit) ? unit : { unit, pool: unit.pools[POOL] as Pool };
}
