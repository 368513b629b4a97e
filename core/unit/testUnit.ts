import { planLayout } from '../layout/planLayout';
import type { Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { isRefusal } from '../value/refusal';
import { apply } from './apply';
import type { UnitEvent } from './event';
import { poolCreated } from './poolCreated';
import type { UnitState } from './state';

/** For tests: a unit with one pool over all its drives. */
interface Described {
  readonly profile: object;
  readonly scheme: Scheme;
  /** Bytes of its drives, in the bays from 1 on. */
  readonly sizes: readonly number[];
  readonly name?: string;
  /** As many as drives where left out. */
  readonly bays?: number;
  readonly spares?: number;
  readonly width?: number;
  readonly pool?: string;
  readonly serialIn?: (bay: string) => string;
}

/** How it came to be: registered, its drives put in, its pool made. */
export function eventsOfUnit({
  profile,
  scheme,
  sizes,
  name = 'Heron',
  bays = sizes.length,
  spares = 0,
  width,
  pool = 'Pool',
  serialIn = (bay) => `D-${bay}`,
}: Described): UnitEvent[] {
  const drives = sizes.map((bytes, i) => ({ bay: String(i + 1), bytes }));
  const made = poolCreated(
    planLayout(profile as Profile, scheme, drives, spares, width),
    'p',
    pool,
    new Map(drives.map(({ bay }) => [bay, serialIn(bay)])),
  );
  if (isRefusal(made)) throw new Error(made.sentence);
  return [
    {
      kind: 'unit-registered',
      name,
      place: { site: 'S', room: 'R' },
      profile: profile as Profile,
      enclosures: [{ name: 'Head', bays: Array.from({ length: bays }, (_, i) => String(i + 1)) }],
    },
    ...drives.map(({ bay, bytes }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: serialIn(bay), bytes, basis: 'exact' },
    })),
    made,
  ];
}

/**
 * What becomes of a unit by these events, one after the other; thrown where one of them cannot have been.
 *
 * @param at when they happen: all at once, or each at a moment of its own
 */
export function afterEvents(
  unit: UnitState | null,
  events: readonly UnitEvent[],
  at: string | ((i: number) => string),
): UnitState {
  return events.reduce((now, event, i) => {
    const next = apply(now, event, typeof at === 'string' ? at : at(i));
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  }, unit) as UnitState;
}
