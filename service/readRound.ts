import { readingsNow, type Reading } from '../store/readings';
import { sitesOf, type PlaceCount } from '../store/shelf';
import { unitsAt, type StoredUnit } from '../store/units';
import type { App } from './app';

export interface Round {
  readonly units: readonly StoredUnit[];
  readonly sites: readonly PlaceCount[];
  readonly used: readonly Reading[];
}

/** Stops of one round: nobody walks past more in an evening. */
const MOST_STOPS = 60;

/** The units of a site, or of all, in the order they are walked: room by room. */
export async function readRound(app: App, site: string | undefined): Promise<Round> {
  const [units, sites] = await Promise.all([unitsAt(app.db, site, MOST_STOPS), sitesOf(app.db)]);
  const used = await readingsNow(
    app.db,
    'used-bytes',
    units.map(({ id }) => id),
  );
  return { units, sites, used };
}
