import type { Profile } from '../platform/profile';
import { usableOf, type PoolDrive } from '../pool/builtPool';
import { grownBands } from '../pool/grown';
import { spaceAfter } from '../layout/spaceOf';
import type { Band } from '../layout/band';
import type { Of } from './event';
import { membersOf, type Pool, type UnitState } from './state';

/** The members of a pool of a unit, by key, as the rules of a built pool take them. */
export function poolDrives(unit: UnitState, pool: Pool): Map<string, PoolDrive> {
  return new Map(
    membersOf(pool).flatMap((serial) => {
      const drive = unit.drives[serial];
      return drive
        ? [
            [
              serial,
              { name: serial, bytes: drive.bytes, ...(drive.media === undefined ? {} : { media: drive.media }) },
            ] as const,
          ]
        : [];
    }),
  );
}

/** What an expand makes of a pool whose members have become larger: the event, or `null` when no space comes of it. */
export function grownByExpand(unit: UnitState, pool: Pool): Of<'pool-grown'> | null {
  const bands = grownBands(unit.profile, pool, poolDrives(unit, pool));
  return usableOf(bands) > pool.usableBytes ? poolGrown(unit.profile, pool, bands) : null;
}

/** The event of a pool that has these bands from now on. */
export function poolGrown(profile: Profile, pool: Pool, bands: readonly Band[]): Of<'pool-grown'> {
  const space = spaceAfter(pool, usableOf(bands), profile);
  return {
    kind: 'pool-grown',
    pool: pool.id,
    bands: bands.map((band) => ({ ...band, members: [...band.members] })),
    ...space,
  };
}
