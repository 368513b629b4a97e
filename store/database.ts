import { Kysely, PostgresDialect, sql, type Transaction as KyselyTransaction } from 'kysely';
import pg from 'pg';
import type { DB } from './generated';

/** Where questions go: the pool of connections, or a transaction in it. */
export type Database = Kysely<DB>;
/** What is written in it is written whole or not at all. */
export type Transaction = KyselyTransaction<DB>;

/** Opens a pool of connections. Nothing outside store/ talks SQL. */
export function openDatabase(url: string, most = 10): Database {
  const pool = new pg.Pool({ connectionString: url, max: most });
  // A resting connection that the database ends, as when it is stopped, is dropped; the next question opens another.
  pool.on('error', () => undefined);
  return new Kysely<DB>({ dialect: new PostgresDialect({ pool }) });
}

/** How long a snapshot may wait for whoever reads from it. */
const PATIENCE = '10min';

/** The database as it is at one moment, for reading a piece at a time, however long that takes; ended by whoever began it. */
export async function snapshotOf(
  db: Database,
): Promise<{ readonly at: Transaction; readonly end: () => Promise<void> }> {
  const tx = await db.startTransaction().setIsolationLevel('repeatable read').setAccessMode('read only').execute();
  await sql`set local idle_in_transaction_session_timeout = ${sql.lit(PATIENCE)}`.execute(tx);
  // The moment is that of the first question.
  await sql`select 1`.execute(tx);
  return { at: tx, end: () => tx.rollback().execute() };
}
