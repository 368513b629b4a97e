import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import pg from 'pg';
import { rebuildProjections } from '../service/ledgers/rebuild';
import { openDatabase } from '../store/database';
import { lacksSnapshots } from '../store/units';
import { startCluster, type Cluster } from './cluster';
import { databaseInCluster, dropDatabase, migrate, swapDatabase } from './databases';
import { restoreFrom } from './dump';
import { openDataFolder } from './folders';
import { databaseName, fileAndDemo } from './options';
import { claimFolder } from './running';
import { openSecrets } from './secrets';
import { explain, Sentence } from './sentence';

/** Puts a backup in the place of the database, which is kept under another name. The application is stopped meanwhile. */
const USAGE = 'Usage: bin/restore [--demo] file';
const SCRATCH = 'patient_shelf_restoring';
let cluster: Cluster | undefined;
let code = 0;
try {
  const { file, isDemo } = fileAndDemo(process.argv.slice(2), USAGE);
  if (file === undefined) throw new Sentence(`Which backup? ${USAGE}`);
  const source = resolve(file);
  if (!existsSync(source)) throw new Sentence(`There is no file ${source}.`);
  if ((process.env['DATABASE_URL'] ?? '') !== '')
    throw new Sentence('DATABASE_URL names a server of your own: restore there with its own pg_restore, into an empty database.');
  const folder = openDataFolder();
  const release = claimFolder(folder, 0);
  try {
    cluster = await startCluster(folder, openSecrets(folder));
    await dropDatabase(cluster, SCRATCH);
    const fresh = await databaseInCluster(cluster, SCRATCH);
    restoreFrom(fresh.owner, source);
    if (!(await holdsLedger(fresh.owner))) throw new Sentence(`${source} is a backup of something else: there is no ledger in it.`);
    await migrate(fresh);
    const db = openDatabase(fresh.app);
    if (await lacksSnapshots(db)) await rebuildProjections(db);
    await db.destroy();
    const kept = await swapDatabase(cluster, SCRATCH, databaseName(isDemo), new Date());
    console.log(`Restored from ${source}.${kept === null ? '' : ` What was there before is kept as the database ${kept}.`}`);
  } finally {
    if (cluster) await dropDatabase(cluster, SCRATCH);
    release();
  }
} catch (error) {
  code = explain(error);
} finally {
  await cluster?.stop();
}
process.exit(code);

async function holdsLedger(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<{ there: boolean }>(
    `select to_regclass('public.act') is not null and to_regclass('public.kysely_migration') is not null as there`,
  );
  await client.end();
  return rows[0]?.there === true;
}
