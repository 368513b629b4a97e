import { Kysely, PostgresDialect, sql, type Transaction } from 'kysely';
import pg from 'pg';
import type { DB } from './generated';

export type Database = Kysely<DB>;
export type Work = Transaction<DB>;

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
export async function snapshotOf(db: Database): Promise<{ readonly at: Work; readonly end: () => Promise<void> }> {
  const work = await db.startTransaction().setIsolationLevel('repeatable read').setAccessMode('read only').execute();
  await sql`set local idle_in_transaction_session_timeout = ${sql.lit(PATIENCE)}`.execute(work);
  // The moment is that of the first question.
  await sql`select 1`.execute(work);
  return { at: work, end: () => work.rollback().execute() };
}
