import { sql } from 'kysely';
import type { Pace } from '../core/rebuild/paces';
import type { UnitPaces } from '../core/rebuild/workKnown';
import type { Database } from './database';

/** More units than these teach hardly more of their family, and pages carry what was learnt. */
const MOST_UNITS = 40;

/** What finished work took at the units of these families that any was read of: so many of each, by name. */
export async function pacesOf(db: Database, families: readonly string[]): Promise<UnitPaces[]> {
  const family = sql<string>`state->'profile'->>'id'`;
  const found = await Promise.all(
    families.map((one) =>
      db
        .selectFrom('unit_now')
        .select(['name as unit', family.as('family'), sql<readonly Pace[]>`state->'paces'`.as('paces')])
        .where(family, '=', one)
        .where(sql<boolean>`state ? 'paces'`)
        .orderBy('name')
        .limit(MOST_UNITS)
        .execute(),
    ),
  );
  // How long it took is of the family; at what hours is each unit's own.
  return found.flat().map(({ paces, ...one }) => ({
    ...one,
    paces: paces.map(({ media, slower }) => ({ media, slower })),
  }));
}
