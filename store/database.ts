import { Kysely, PostgresDialect, type Transaction } from 'kysely';
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
