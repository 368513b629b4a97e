import { Kysely, PostgresDialect, type Transaction } from 'kysely';
import pg from 'pg';
import type { DB } from './generated';

export type Database = Kysely<DB>;
export type Work = Transaction<DB>;

/** Opens a pool of connections. Nothing outside store/ talks SQL. */
export function openDatabase(url: string, most = 10): Database {
  return new Kysely<DB>({ dialect: new PostgresDialect({ pool: new pg.Pool({ connectionString: url, max: most }) }) });
}
