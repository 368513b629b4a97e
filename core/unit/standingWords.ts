import { factsOf } from '../layout/scheme';
import { fullMarginOfPool, isDown, isProvenLost, marginOfPool, type Standing } from './margin';
import { poolsOf, type Pool, type UnitState } from './state';

/** "can lose 2 more", the one figure that matters; below 0 it has stopped. */
export function marginWords(margin: number): string {
  if (margin < 0) return 'has stopped';
  return margin === 0 ? 'can lose none' : `can lose ${String(margin)} more`;
}

/** The sentence under a unit: its margin, and what is behind it. */
export function standingWords(unit: UnitState, standing: Standing): string {
  const pools = poolsOf(unit);
  if (pools.length === 0) return 'no pool yet';
  if (standing === 'lost') return 'data lost';
  if (standing === 'stopped') return 'stopped; nothing proven lost';
  const worst = pools.reduce((a, b) => (marginOfPool(a) <= marginOfPool(b) ? a : b));
  const words = `${marginWords(marginOfPool(worst))}${untilBuilt(worst)}`;
  if (standing === 'unguarded') return `${words}, by choice`;
  const signs = Object.values(unit.drives).filter(
    ({ condition, bay }) => condition === 'suspected' && bay !== null,
  ).length;
  if (standing === 'watch') return `${words}, ${String(signs)} showing signs`;
  return factsOf(worst.scheme).isGrouped && marginOfPool(worst) > 0 ? `${words} in every group` : words;
}

/** The end of the words of a pool that is not protected yet. */
function untilBuilt(pool: Pool): string {
  return pool.building === true && !isDown(pool) ? ' until its first build is done' : '';
}

/** How a pool stands, in words: "can lose 1; its layout gives 2". */
export function poolWords(unit: Pick<UnitState, 'drives'>, pool: Pool): string {
  if (isDown(pool)) return isProvenLost(unit, pool) ? 'data lost' : 'stopped; nothing proven lost';
  const full = fullMarginOfPool(pool);
  const now = marginOfPool(pool);
  return now === full ? marginWords(now) : `${marginWords(now)}${untilBuilt(pool)}; its layout gives ${String(full)}`;
}

export const CONDITION_WORDS = {
  well: 'well',
  suspected: 'showing signs',
  failed: 'failed',
  'out-of-service': 'out of service',
  removed: 'taken out',
} as const;
