import { sql } from 'kysely';
import type { Database, Transaction } from './database';

/** A network in which units may be asked, and who said so. */
export interface AllowedNetwork {
  readonly network: string;
  readonly allowedBy: string;
  readonly allowedAt: string;
}

export async function allowedNetworks(db: Database): Promise<AllowedNetwork[]> {
  const rows = await db.selectFrom('watch_network').selectAll().orderBy('network').execute();
  return rows.map(({ network, allowed_by, allowed_at }) => ({
    network,
    allowedBy: allowed_by,
    allowedAt: allowed_at.toISOString(),
  }));
}

/** These and no others, whoever else says so at the same moment; one that was allowed before stays as it was. */
export async function saveNetworks(db: Transaction, networks: readonly string[], allowedBy: string): Promise<void> {
  await sql`lock table watch_network in share row exclusive mode`.execute(db);
  const others = db.deleteFrom('watch_network');
  await (networks.length === 0 ? others : others.where('network', 'not in', networks)).execute();
  if (networks.length === 0) return;
  await db
    .insertInto('watch_network')
    .values(networks.map((network) => ({ network, allowed_by: allowedBy })))
    .onConflict((conflict) => conflict.column('network').doNothing())
    .execute();
}
