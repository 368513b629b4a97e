import { sql } from 'kysely';
import type { PlanRun } from '../core/planRun/planRun';
import { MODEL } from '../core/world/model';
import type { Database, Transaction } from './database';

/** A plan as its snapshot holds it. */
export interface StoredPlan {
  readonly id: string;
  readonly version: number;
  readonly lastHappenedAt: string;
  readonly run: PlanRun;
}

const SNAPSHOT = ['plan', 'version', 'last_happened_at', 'run'] as const;

function toPlan(row: { plan: string; version: number; last_happened_at: Date; run: unknown }): StoredPlan {
  return {
    id: row.plan,
    version: row.version,
    lastHappenedAt: row.last_happened_at.toISOString(),
    run: row.run as PlanRun,
  };
}

export async function planById(db: Database, id: string): Promise<StoredPlan | undefined> {
  const row = await db.selectFrom('plan_now').select(SNAPSHOT).where('plan', '=', id).executeTakeFirst();
  return row && toPlan(row);
}

/** The plans of a unit that are under way. */
export async function openPlansOf(db: Database, unit: string): Promise<StoredPlan[]> {
  const rows = await db
    .selectFrom('plan_now')
    .select(SNAPSHOT)
    .where('is_open', '=', true)
    .where(sql<boolean>`units @> array[${unit}::uuid]`)
    .orderBy('started_at')
    .execute();
  return rows.map(toPlan);
}

/** Which plans are under way at which units, the newest first. */
export async function openPlanPlaces(
  db: Database,
  most: number,
): Promise<{ readonly plan: string; readonly units: readonly string[] }[]> {
  return db
    .selectFrom('plan_now')
    .select(['plan', 'units'])
    .where('is_open', '=', true)
    .orderBy('started_at', 'desc')
    .limit(most)
    .execute();
}

/** Every plan, those under way first, then the newest; with the names of its units. */
export async function allPlans(db: Database): Promise<(StoredPlan & { readonly unitNames: readonly string[] })[]> {
  const rows = await db
    .selectFrom('plan_now')
    .select([
      ...SNAPSHOT,
      sql<
        string[]
      >`array(select coalesce(u.name, '') from unnest(units) with ordinality as of (id, i) left join unit_now u on u.unit = of.id order by i)`.as(
        'names',
      ),
    ])
    .orderBy('is_open', 'desc')
    .orderBy('started_at', 'desc')
    .orderBy('plan')
    .execute();
  return rows.map(({ names, ...row }) => ({ ...toPlan(row), unitNames: names }));
}

export async function savePlan(tx: Transaction, { id, version, lastHappenedAt, run }: StoredPlan): Promise<void> {
  const values = {
    version,
    model: MODEL,
    last_happened_at: lastHappenedAt,
    units: [...run.units],
    started_at: run.startedAt,
    is_open: run.ended === undefined,
    run: JSON.stringify(run),
  };
  await tx
    .insertInto('plan_now')
    .values({ plan: id, ...values })
    .onConflict((conflict) => conflict.column('plan').doUpdateSet(values))
    .execute();
}

export async function forgetPlan(tx: Transaction, id: string): Promise<void> {
  await tx.deleteFrom('plan_now').where('plan', '=', id).execute();
}

export async function forgetPlans(tx: Transaction): Promise<void> {
  await tx.deleteFrom('plan_now').execute();
}
