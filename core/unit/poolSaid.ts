import { mayBeBack } from './applyPoolServed';
import type { UnitEvent } from './event';
import type { Pool, UnitState } from './state';

/** What a unit's page says of a pool as a whole, in its own words. */
export const POOL_SAYS = ['healthy', 'degraded', 'damaged', 'stopped', 'asks-to-erase'] as const;
export type PoolSays = (typeof POOL_SAYS)[number];

/** The answers a person chooses from. */
export const POOL_SAYS_WORDS: Readonly<Record<PoolSays, string>> = {
  healthy: 'It is back: healthy, or as it was before',
  degraded: 'It is back, degraded: a drive is missing',
  damaged: 'It is back, with files damaged',
  stopped: 'It has stopped, or is not there',
  'asks-to-erase': 'It asks to erase, initialise or repair: answered no',
};

/**
 * What is recorded of what a unit's page says of a pool: that it has stopped, or that it is back with the members that stand
 * in their bays and work. Healthy with a member that is gone by the record is degraded, until the record says otherwise.
 *
 * @param note the page's own words, or what went before
 */
export function eventsOfPoolSaid(unit: UnitState, pool: Pool, says: PoolSays, note = ''): readonly UnitEvent[] {
  const words = note.slice(0, 400);
  const noted = words === '' ? {} : { note: words };
  if (says === 'stopped') return [{ kind: 'pool-stopped', pool: pool.id, ...noted }];
  if (says === 'asks-to-erase')
    return [
      {
        kind: 'sign-noted',
        note: `Its page asks to erase, initialise or repair ${pool.name}; answered no${words === '' ? '' : `: ${words}`}`.slice(
          0,
          400,
        ),
      },
    ];
  const serials = [...mayBeBack(unit, pool)];
  const isWhole = pool.missing.length === serials.length;
  const how = says === 'damaged' ? 'damaged' : says === 'healthy' && isWhole ? 'whole' : 'degraded';
  return [{ kind: 'pool-back', pool: pool.id, how, serials, ...noted }];
}
