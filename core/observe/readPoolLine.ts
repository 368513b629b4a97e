import type { PoolSays } from '../unit/poolSaid';
import { poolsOf, type UnitState } from '../unit/state';

/** What pages call a pool that is or is not served; the graver word of a line wins. */
const SAYS: readonly (readonly [RegExp, PoolSays])[] = [
  [/\b(crashed|stopped|offline|failed|unmounted|unavailable|inaccessible|not (?:mounted|available))\b/i, 'stopped'],
  [/\b(corrupt\w*|damaged?)\b/i, 'damaged'],
  [/\b(degraded|reduced|thinned|exposed)\b/i, 'degraded'],
  [/\b(healthy|normal|optimal|good|ok|online|clean)\b/i, 'healthy'],
];

/** A line that names a drive or where one stands is of that drive. */
const OF_A_DRIVE = /\b(bays?|slots?|trays?|drives?|disks?)\b/i;

/** What a line of a page says of a pool as a whole: by its name, or by the word where the unit has one pool only. */
export function readPoolLine(
  unit: Pick<UnitState, 'drives'> & Partial<Pick<UnitState, 'pools'>>,
  line: string,
): { readonly pool: string; readonly says: PoolSays } | null {
  const pools = poolsOf({ pools: unit.pools ?? {} });
  const low = line.toLowerCase();
  if (OF_A_DRIVE.test(line) || Object.keys(unit.drives).some((serial) => low.includes(serial.toLowerCase())))
    return null;
  const named = pools.filter(({ name }) => low.includes(name.toLowerCase()));
  const meant =
    named.length > 0 ? named : /^\W*(?:storage )?(?:pool|array|raid|volume group)\b/i.test(line) ? pools : [];
  const [pool] = meant;
  if (!pool || meant.length > 1) return null;
  // Its own name is no word of how it is.
  const rest = named.length > 0 ? low.replace(pool.name.toLowerCase(), ' ') : low;
  const says = SAYS.find(([pattern]) => pattern.test(rest))?.[1];
  return says === undefined ? null : { pool: pool.id, says };
}
