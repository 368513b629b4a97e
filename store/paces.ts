import { sql } from 'kysely';
import type { Pace } from '../core/rebuild/paces';
import type { UnitPaces } from '../core/rebuild/workKnown';
import type { Database } from './database';

/** What finished work took at every unit of these families that any was read of. */
export async function pacesOf(db: Database, families: readonly string[]): Promise<UnitPaces[]> {
  if (families.length === 0) return [];
  const family = sql<string>`state->'profile'->>'id'`;
  return db
    .selectFrom('unit_now')
    .select(['name as unit', family.as('family'), sql<readonly Pace[]>`state->'paces'`.as('paces')])
    .where(family, 'in', families)
    .where(sql<boolean>`state ? 'paces'`)
    .orderBy('name')
    .execute();
}
