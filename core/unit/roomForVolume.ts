import { entryOf } from '../value/entryOf';
import type { UnitState, Volume } from './state';

/**
 * How large a volume can be, in bytes: all that its pool shows, less what its other thick volumes take, and no more than
 * the family makes. 0 where its pool is not here.
 */
export function roomForVolume(unit: UnitState, { id, pool: of }: Pick<Volume, 'id' | 'pool'>): number {
  const pool = entryOf(unit.pools, of);
  if (!pool) return 0;
  const others = Object.values(unit.volumes).filter((one) => one.pool === of && one.id !== id && !one.thin);
  const left = pool.shownBytes - others.reduce((sum, { bytes }) => sum + bytes, 0);
  return Math.max(0, Math.min(left, unit.profile.volumes.largestBytes ?? Infinity));
}
