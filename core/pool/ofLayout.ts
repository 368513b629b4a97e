import type { Layout } from '../layout/layout';
import type { PlannedDrive } from '../layout/planLayout';
import type { BuiltPool, PoolDrive } from './builtPool';

/** A planned layout as the pool that is built of it. */
export function poolOfLayout({ scheme, groupWidth, bands }: Layout): BuiltPool {
  return { scheme, bands, ...(groupWidth === undefined ? {} : { groupWidth }) };
}

/** Drives by the names bands use. */
export function drivesByName(drives: readonly PlannedDrive[]): Map<string, PoolDrive> {
  return new Map(
    drives.map(({ bay, bytes, media }) => [bay, { name: bay, bytes, ...(media === undefined ? {} : { media }) }]),
  );
}

/** The drives of a layout that are in its bands: spares and what is left over are not. */
export function membersOnly({ bands }: Layout, drives: readonly PlannedDrive[]): PlannedDrive[] {
  const members = new Set(bands.flatMap((band) => band.members));
  return drives.filter(({ bay }) => members.has(bay));
}
