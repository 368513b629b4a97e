import { labelBytes } from '../core/drive/labelBytes';
import { planLayout } from '../core/layout/planLayout';
import type { Profile } from '../core/platform/profile';
import { enclosuresOf } from '../core/unit/enclosures';
import type { UnitEvent } from '../core/unit/event';
import { poolCreated } from '../core/unit/poolCreated';
import { serviceOf } from '../core/unit/serviceOf';
import { isRefusal, type Refusal } from '../core/value/refusal';
import type { DemoUnit } from './scenario';

/** Five years from the day they were bought. */
const WARRANTY_DAYS = 1826;

/**
 * A unit of the demo as it was put up: what happened on its first day, and what its page shows since.
 *
 * @param profile its family
 * @param at the moment so many days before today, ISO 8601
 */
export function putUpAs(
  profile: Profile,
  { name, place, bays, drives, pool, details, daysAgo }: DemoUnit,
  at: (daysAgo: number) => string,
  poolId: string,
): { events: UnitEvent[]; shownBytes: number } {
  const planned = drives.map(({ bay, gigabytes }) => ({ bay, bytes: labelBytes(gigabytes) }));
  const layout = planLayout(profile, pool.scheme, planned, pool.spares ?? 0, pool.groupWidth);
  const built = orThrow(
    poolCreated(layout, poolId, pool.name, new Map(drives.map(({ bay, serial }) => [bay, serial]))),
  );
  const [boughtOn, warrantyUntil] = [at(daysAgo + 20).slice(0, 10), at(daysAgo + 20 - WARRANTY_DAYS).slice(0, 10)];
  const inserted = drives.map(({ bay, serial, gigabytes, model, priceCents, lot }): UnitEvent => ({
    kind: 'drive-inserted',
    bay,
    drive: {
      serial,
      bytes: labelBytes(gigabytes),
      basis: 'exact',
      label: `${String(gigabytes / 1000)} TB`,
      model,
      priceCents,
      lot,
      boughtOn,
      warrantyUntil,
    },
  }));
  const registered: UnitEvent = {
    kind: 'unit-registered',
    name,
    place,
    profile,
    enclosures: enclosuresOf(
      profile,
      bays,
      drives.map(({ bay }) => bay),
    ),
  };
  return {
    events: [
      registered,
      { kind: 'unit-described', details: { ...details, driveChange: driveChangeOf(profile) } },
      ...inserted,
      built,
    ],
    shownBytes: layout.shownBytes,
  };
}

function orThrow<T>(value: T | Refusal): T {
  if (isRefusal(value)) throw new Error(`The demo does not hold: ${value.sentence}`);
  return value;
}

/** Whoever looks after these has said how their trays come out: as their families have it. */
function driveChangeOf(profile: Profile): 'running' | 'off' | 'case-opened' {
  const { opensCase, isCold } = serviceOf({ profile, details: {} });
  return opensCase ? 'case-opened' : isCold ? 'off' : 'running';
}
