import { Migrator, sql, type Kysely, type Migration } from 'kysely';
import { APP_ROLE, grants } from './grants';
import * as auth from './migrations/001_auth';
import * as shelf from './migrations/002_shelf';
import * as doors from './migrations/003_doors';
import * as watch from './migrations/004_watch';
import * as tell from './migrations/005_tell';
import * as prices from './migrations/006_prices';
import * as networks from './migrations/007_networks';
import * as columns from './migrations/008_columns';
import * as zone from './migrations/009_zone';
import * as lifeLeft from './migrations/010_life_left';
import * as unread from './migrations/011_unread';
import * as backups from './migrations/012_backups';

const MIGRATIONS: Record<string, Migration> = {
  '001_auth': auth,
  '002_shelf': shelf,
  '003_doors': doors,
  '004_watch': watch,
  '005_tell': tell,
  '006_prices': prices,
  '007_networks': networks,
  '008_columns': columns,
  '009_zone': zone,
  '010_life_left': lifeLeft,
  '011_unread': unread,
  '012_backups': backups,
};

/** The last of them: what tables this program works with. */
export const SCHEMA = Object.keys(MIGRATIONS).sort().at(-1) as string;

/** What bringing a database up to date came to. */
export type Migrated =
  | { readonly kind: 'up-to-date' }
  | { readonly kind: 'newer-than-program'; readonly unknown: string }
  | { readonly kind: 'failed'; readonly reason: string };

/**
 * Brings a database up to this program's tables, with what the application's role may do with them. Safe when two
 * start at once. A database that a newer program has written is left alone.
 *
 * @param db opened by the tables' owner, not by the application's role
 */
export async function migrateToLatest(db: Kysely<unknown>): Promise<Migrated> {
  const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve(MIGRATIONS) } });
  const unknown = await unknownMigration(db);
  if (unknown !== undefined) return { kind: 'newer-than-program', unknown };
  const { error } = await migrator.migrateToLatest();
  if (error) return { kind: 'failed', reason: (error as Error).message };
  // In one piece and one at a time: an application that is running never finds its rights half given.
  await db.transaction().execute(async (tx) => {
    await sql`select pg_advisory_xact_lock(hashtext('patient-shelf grants'))`.execute(tx);
    for (const grant of grants(APP_ROLE)) await sql.raw(grant).execute(tx);
  });
  return { kind: 'up-to-date' };
}

async function unknownMigration(db: Kysely<unknown>): Promise<string | undefined> {
  const { rows: exists } = await sql<{
    there: boolean;
  }>`select to_regclass('public.kysely_migration') is not null as there`.execute(db);
  if (exists[0]?.there !== true) return undefined;
  const { rows } = await sql<{ name: string }>`select name from public.kysely_migration order by name`.execute(db);
  return rows.map(({ name }) => name).find((name) => !(name in MIGRATIONS));
}
