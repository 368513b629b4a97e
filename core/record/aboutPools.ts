import type { StatedUnitEvent } from '../../schemas/unitEvent';
import { mayBeBack } from '../unit/applyPoolServed';
import type { UnitEvent } from '../unit/event';
import { isDown } from '../unit/margin';
import { eventsOfPoolSaid, type PoolSays } from '../unit/poolSaid';
import { poolsOf, type Pool, type UnitState } from '../unit/state';

/** "the pool", "the array", "storage", or a pool's own name: what is said is of it as a whole. */
const OF_A_POOL = /\b(pools?|array|raid|storage|data|it|everything|all)\b/;
const STOPPED =
  /\b(stopped|offline|crashed|down|unavailable|inaccessible|unmounted|not (?:mounted|available|there|reachable|served))\b/;
const DEGRADED = /\b(degraded|thinned|reduced)\b/;
const BACK = /\b(back|online|healthy|optimal|normal|mounted|available|served) ?(?:again)?\b/;
const DAMAGED = /\b(damag\w*|corrupt\w*|broken files?|files? (?:are )?(?:missing|broken|gone))\b/;
const LOST = /\b(?:data|pool|array|everything|it|all) (?:is |are |was )?(?:all )?(?:lost|given up|gone for good)\b/;

/**
 * What a sentence says of whether a pool is served, in the words of units: "Pool 1 has stopped", "offline", "degraded", "Pool
 * 1 is back and healthy", "came back, files damaged", "the data is lost". Where several pools can be meant, each is offered.
 */
export function aboutPools(
  unit: UnitState,
  low: string,
): readonly { readonly pool: Pool; readonly event: StatedUnitEvent }[] {
  const pools = poolsOf(unit);
  const named = pools.filter(({ name }) => low.includes(name.toLowerCase()));
  if (named.length === 0 && !OF_A_POOL.test(low) && !SAYS_ALONE.test(low)) return [];
  return (named.length > 0 ? named : pools).flatMap((pool) => {
    const event = saidOf(unit, pool, low);
    return event ? [{ pool, event: event as StatedUnitEvent }] : [];
  });
}

/** A word or two that can be of nothing else: "degraded", "came back whole". */
const SAYS_ALONE = /^(?:has |is |came )?(?:stopped|offline|degraded|back|healthy|online)\b/;

function saidOf(unit: UnitState, pool: Pool, low: string): UnitEvent | undefined {
  const said = (says: PoolSays): UnitEvent | undefined => eventsOfPoolSaid(unit, pool, says)[0];
  if (LOST.test(low)) return { kind: 'pool-lost', pool: pool.id };
  // What is on record already is said again by nobody.
  const isNews = isDown(pool) || mayBeBack(unit, pool).length > 0;
  if (BACK.test(low) && !/\bnot (?:yet )?back\b/.test(low))
    return DAMAGED.test(low) ? said('damaged') : isNews ? said(DEGRADED.test(low) ? 'degraded' : 'healthy') : undefined;
  if (STOPPED.test(low)) return pool.stopped ? undefined : said('stopped');
  if (DAMAGED.test(low) && /\b(pool|array|files?)\b/.test(low)) return said('damaged');
  return DEGRADED.test(low) && (isDown(pool) || pool.missing.length === 0) ? said('degraded') : undefined;
}
