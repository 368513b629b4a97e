import type { Json } from './testShelf';

/** Exact bytes of a drive whose label says 8 TB (IDEMA LBA1-03). */
export const BYTES = 8001563222016;

/** Alike drives in the bays from 1 on, each called after the unit and its bay. */
export function drivesFor(name: string, count = 3, bytes = BYTES) {
  return Array.from({ length: count }, (_, i) => ({
    bay: String(i + 1),
    serial: `${name}-${String(i + 1)}`,
    bytes,
    basis: 'exact' as const,
  }));
}

/**
 * What is sent to put a unit of three alike drives on the shelf, in a pool that can lose one.
 *
 * @param more said otherwise; `undefined` leaves out
 */
export function unitSent(name: string, more: Json = {}): Json {
  return {
    name,
    place: { site: 'S', room: 'R' },
    profile: 'plain',
    bays: 4,
    drives: drivesFor(name),
    pool: { scheme: 'parity-1' },
    ...more,
  };
}

/** The same of a unit without drives. */
export function emptyUnitSent(name: string, more: Json = {}): Json {
  return unitSent(name, { drives: undefined, pool: undefined, ...more });
}
