import type { Database } from './database';

export interface StoredPrices {
  readonly body: unknown;
  readonly setBy: string;
  readonly setAt: string;
}

export async function priceList(db: Database): Promise<StoredPrices | undefined> {
  const row = await db.selectFrom('price_list').select(['body', 'set_by', 'set_at']).executeTakeFirst();
  return row && { body: row.body, setBy: row.set_by, setAt: row.set_at.toISOString() };
}

/** @param setAt left out means now */
export async function savePriceList(
  db: Database,
  { body, setBy, setAt = new Date().toISOString() }: Omit<StoredPrices, 'setAt'> & { readonly setAt?: string },
): Promise<void> {
  const values = { body: JSON.stringify(body), set_by: setBy, set_at: setAt };
  await db
    .insertInto('price_list')
    .values({ id: true, ...values })
    .onConflict((conflict) => conflict.column('id').doUpdateSet(values))
    .execute();
}
