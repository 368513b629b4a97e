import { factsOf } from '../layout/scheme';
import { marginOf } from '../survival/marginOf';
import { entryOf } from '../value/entryOf';
import { poolsOf, type Pool, type UnitState } from './state';

/**
 * How many more members of this pool may fail, whichever they are, before data is lost; below 0 when data is lost.
 * Loss stays: a pool that has lost data does not get its margin back by putting drives in again. Until its first build is
 * done, a pool of a family that does not protect it before can lose none.
 */
export function marginOfPool(pool: Pool): number {
  const margin = marginOf(pool.bands, new Set(pool.missing));
  if (isDown(pool)) return Math.min(margin, -1);
  return pool.building === true ? Math.min(margin, 0) : margin;
}

/** True of a pool that is not served: more is missing than it survives, its unit says that it has stopped, or it is given up. */
export function isDown({ lost, stopped, gone }: Pick<Pool, 'lost' | 'stopped' | 'gone'>): boolean {
  return lost.length > 0 || stopped !== undefined || gone !== undefined;
}

/**
 * True where data is proven gone: somebody stated it; or a drive that is dead held files that are in no other. A pool that has
 * stopped is most often back once its drives are in their bays and the unit was restarted: nobody says "lost" before.
 */
export function isProvenLost(unit: Pick<UnitState, 'drives'>, { scheme, lost, gone }: Pool): boolean {
  return (
    gone !== undefined ||
    (factsOf(scheme).loses === 'drives' && lost.some((serial) => entryOf(unit.drives, serial)?.condition === 'failed'))
  );
}

/** Margin by pool. */
export function marginsOf(unit: UnitState): Record<string, number> {
  return Object.fromEntries(Object.entries(unit.pools).map(([id, pool]) => [id, marginOfPool(pool)]));
}

/** The margin the pool would have with nothing missing: what its layout gives. */
export function fullMarginOfPool(pool: Pool): number {
  return marginOf(pool.bands, new Set());
}

/** The least margin over the unit's pools; `null` for a unit without a pool. */
export function marginOfUnit(unit: UnitState): number | null {
  const pools = poolsOf(unit);
  return pools.length === 0 ? null : Math.min(...pools.map(marginOfPool));
}

/**
 * The word for how a pool or unit stands. `well`: full margin. `watch`: full margin, a sign to watch. `thinned`: less
 * margin than the layout gives. `stopped`: not served, nothing proven lost. `lost`: data is lost. `unguarded`: no protection, by choice. `empty`: no pool.
 */
export type Standing = 'well' | 'watch' | 'thinned' | 'stopped' | 'lost' | 'unguarded' | 'empty';

const WORST_FIRST: readonly Standing[] = ['lost', 'stopped', 'thinned', 'watch', 'unguarded', 'well', 'empty'];

/** How a unit stands: as its worst pool does; `empty` without one. */
export function standingOfUnit(unit: UnitState): Standing {
  const hasSign = Object.values(unit.drives).some(({ condition, bay }) => bay !== null && condition === 'suspected');
  const found = new Set(poolsOf(unit).map((pool) => standingOfPool(unit, pool, hasSign)));
  return WORST_FIRST.find((standing) => found.has(standing)) ?? 'empty';
}

function standingOfPool(unit: UnitState, pool: Pool, hasSign: boolean): Standing {
  const [margin, full] = [marginOfPool(pool), fullMarginOfPool(pool)];
  if (margin < 0) return isProvenLost(unit, pool) ? 'lost' : 'stopped';
  if (margin < full) return 'thinned';
  if (hasSign) return 'watch';
  return full === 0 ? 'unguarded' : 'well';
}

/** True while any pool has less margin than its layout gives. */
export function isThinned(unit: UnitState): boolean {
  return poolsOf(unit).some((pool) => marginOfPool(pool) < fullMarginOfPool(pool));
}
