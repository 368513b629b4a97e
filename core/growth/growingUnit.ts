import { freeBays, type Pool, type UnitState } from '../unit/state';
import { poolDrives } from '../unit/grownByExpand';
import { refusal, type Refusal } from '../value/refusal';
import { growingOf, type Growing } from './growing';

/**
 * A pool of a unit as it is built, with its members and the bays that are free: where its growing begins. Members are named
 * by their bays, as the steps name them.
 *
 * @returns refused (`others-missing`) while a member is missing: it is rebuilt first
 */
export function growingUnit(unit: UnitState, pool: Pool): Growing | Refusal {
  if (pool.missing.length > 0 || pool.lost.length > 0)
    return refusal(
      'others-missing',
      `${pool.name} is not whole: what is missing is rebuilt first, then it grows.`,
      '/pool',
    );
  const drives = poolDrives(unit, pool);
  const bayOf = (serial: string): string => unit.drives[serial]?.bay ?? serial;
  const start = growingOf(
    unit.profile,
    {
      scheme: pool.scheme,
      ...(pool.groupWidth === undefined ? {} : { groupWidth: pool.groupWidth }),
      bands: pool.bands.map((band) => ({ ...band, members: band.members.map(bayOf) })),
    },
    new Map([...drives].map(([serial, drive]) => [bayOf(serial), { ...drive, name: bayOf(serial) }])),
    freeBays(unit),
    unit.enclosures,
  );
  return { ...start, shownBytes: pool.shownBytes };
}
