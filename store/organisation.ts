import type { Database } from './database';

export interface Organisation {
  readonly name: string;
  readonly currency: string;
  /** Where people work, by its name in the IANA data base; none while nobody said. */
  readonly timeZone?: string;
  readonly isDemo: boolean;
}

export async function organisation(db: Database): Promise<Organisation> {
  const row = await db.selectFrom('organisation').selectAll().executeTakeFirst();
  return row
    ? {
        name: row.name,
        currency: row.currency,
        isDemo: row.is_demo,
        ...(row.time_zone === null ? {} : { timeZone: row.time_zone }),
      }
    : { name: '', currency: 'EUR', isDemo: false };
}

export async function saveOrganisation(
  db: Database,
  { name, currency, isDemo, timeZone }: Organisation,
): Promise<void> {
  const values = { name, currency, is_demo: isDemo, time_zone: timeZone ?? null };
  await db
    .insertInto('organisation')
    .values({ id: true, ...values })
    .onConflict((conflict) => conflict.column('id').doUpdateSet(values))
    .execute();
}

/** True when the database answers. */
export async function canAnswer(db: Database): Promise<boolean> {
  try {
    await db.selectFrom('organisation').select('id').execute();
    return true;
  } catch {
    return false;
  }
}
