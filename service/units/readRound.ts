import { usedOf } from '../../store/readings';
import { sitesOf, type PlaceCount } from '../../store/shelf';
import { unitsAt, type StoredUnit } from '../../store/units';
import type { App } from '../app';

export interface Round {
  readonly units: readonly StoredUnit[];
  readonly sites: readonly PlaceCount[];
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
}

/** Stops of one round: nobody walks past more in an evening. */
const MOST_STOPS = 60;

/** The units of a site, or of all, in the order they are walked: room by room. */
export async function readRound(app: App, site: string | undefined): Promise<Round> {
  const [units, sites] = await Promise.all([unitsAt(app.db, site, MOST_STOPS), sitesOf(app.db)]);
  const used = await usedOf(
    app.db,
    units.flatMap(({ state }) => Object.keys(state.pools)),
  );
  return { units, sites, used };
}
