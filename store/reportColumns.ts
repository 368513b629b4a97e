import type { Database } from './database';

/** Which headings stand over what in the list a unit writes out, and who said so. */
export interface StoredColumns {
  readonly columns: unknown;
  readonly setBy: string;
  readonly setAt: string;
}

/** As it was said of this unit, or last of another of its family, which writes alike. */
export async function reportColumns(db: Database, unit: string, profile: string): Promise<StoredColumns | undefined> {
  const row = await db
    .selectFrom('report_columns')
    .select(['columns', 'set_by', 'set_at'])
    .where((is) => is.or([is('unit', '=', unit), is('profile', '=', profile)]))
    .orderBy((is) => is('unit', '=', unit), 'desc')
    .orderBy('set_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row && { columns: row.columns, setBy: row.set_by, setAt: row.set_at.toISOString() };
}

export async function saveReportColumns(
  db: Database,
  unit: string,
  { profile, columns, setBy }: { readonly profile: string; readonly columns: object; readonly setBy: string },
): Promise<void> {
  const values = { profile, columns: JSON.stringify(columns), set_by: setBy, set_at: new Date() };
  await db
    .insertInto('report_columns')
    .values({ unit, ...values })
    .onConflict((conflict) => conflict.column('unit').doUpdateSet(values))
    .execute();
}
