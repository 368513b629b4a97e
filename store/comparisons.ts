import type { Database } from './database';

export interface StoredComparison {
  readonly id: string;
  readonly name: string;
  readonly body: unknown;
  readonly keptBy: string;
  readonly keptAt: string;
}

/** @param keptAt left out means now */
export async function insertComparison(
  db: Database,
  { id, name, body, keptBy, keptAt }: Omit<StoredComparison, 'keptAt'> & { readonly keptAt?: string },
): Promise<void> {
  await db
    .insertInto('comparison')
    .values({
      id,
      name,
      body: JSON.stringify(body),
      kept_by: keptBy,
      ...(keptAt === undefined ? {} : { kept_at: keptAt }),
    })
    .execute();
}

/** Newest first. */
export async function allComparisons(db: Database): Promise<StoredComparison[]> {
  const rows = await db.selectFrom('comparison').selectAll().orderBy('kept_at', 'desc').orderBy('id').execute();
  return rows.map(({ id, name, body, kept_by, kept_at }) => ({
    id,
    name,
    body,
    keptBy: kept_by,
    keptAt: kept_at.toISOString(),
  }));
}

export async function deleteComparison(db: Database, id: string): Promise<boolean> {
  const { numDeletedRows } = await db.deleteFrom('comparison').where('id', '=', id).executeTakeFirst();
  return numDeletedRows > 0n;
}
