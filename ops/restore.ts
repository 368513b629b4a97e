import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import pg from 'pg';
import { whatIsOff } from '../service/ledgers/soundness';
import { catalogueOf } from '../store/catalogue';
import { openDatabase, type Database } from '../store/database';
import { isAsWritten } from './checksum';
import { startCluster, type Cluster } from './cluster';
import {
  contentOf,
  contentWords,
  databaseInCluster,
  dropDatabase,
  migrate,
  swapDatabase,
  type DatabaseAddresses,
} from './databases';
import { restoreFrom } from './dump';
import { folderOfShelf } from './installation';
import { databaseName, fileAndDemo } from './options';
import { claimFolder } from './running';
import { openSecrets } from './secrets';
import { explain, Sentence } from './sentence';

/** Puts a backup in the place of the database, which is kept under another name. The application is stopped meanwhile. */
const USAGE = 'Usage: bin/restore [--demo] [--anyway] file';
const SCRATCH = 'patient_shelf_restoring';
/** What this program makes of an empty database. */
const OURS = 'patient_shelf_restoring_ours';
let cluster: Cluster | undefined;
let code = 0;
try {
  const { file, isDemo, isAnyway } = fileAndDemo(process.argv.slice(2), USAGE, ['anyway']);
  if (file === undefined) throw new Sentence(`Which backup? ${USAGE}`);
  const source = resolve(file);
  if (!existsSync(source)) throw new Sentence(`There is no file ${source}.`);
  if ((process.env['DATABASE_URL'] ?? '') !== '')
    throw new Sentence(
      'DATABASE_URL names a server of your own: restore there with its own pg_restore, into an empty database.',
    );
  const folder = folderOfShelf();
  const release = claimFolder(folder, 'no address: a backup is being restored');
  try {
    const isChecked = await isAsWritten(source);
    cluster = await startCluster(folder, openSecrets(folder));
    await dropDatabase(cluster, SCRATCH);
    const fresh = await databaseInCluster(cluster, SCRATCH);
    restoreFrom(fresh.owner, source);
    if (!(await holdsLedger(fresh.owner)))
      throw new Sentence(`${source} is a backup of something else: there is no ledger in it.`);
    await migrate(fresh);
    const foreign = await notOurs(cluster, fresh);
    const { broken, odd } = await withDatabase(fresh.app, whatIsOff);
    const content = await contentOf(fresh.owner);
    const holds = content === null ? '' : `: ${contentWords(content)}`;
    const named = [...foreign, ...broken, ...odd].map((one) => `\n- ${one}`).join('');
    const isWhole = foreign.length === 0 && broken.length === 0;
    if (!isWhole)
      throw new Sentence(`Nothing was replaced: ${source} is not as this program would have written it.${named}`);
    if (odd.length > 0 && !isAnyway)
      throw new Sentence(
        `Nothing was replaced: ${source} is whole, but not as this program would have written it.${named}\nIf there is no better copy, bin/restore --anyway takes it as it is.`,
      );
    if (odd.length > 0) console.error(`Taken as it is:${named}`);
    const kept = await swapDatabase(cluster, SCRATCH, databaseName(isDemo), new Date());
    console.log(
      `Restored from ${source}.${kept === null ? '' : ` What was there before is kept as the database ${kept}.`}`,
    );
    console.log(`It is in ${folder}${holds}.`);
    if (!isChecked) console.log('There was no checksum beside it to hold it against.');
  } finally {
    if (cluster) for (const name of [SCRATCH, OURS]) await dropDatabase(cluster, name);
    release();
  }
} catch (error) {
  code = explain(error);
} finally {
  await cluster?.stop();
}
process.exit(code);

/** What is in the database that this program did not make, and what is missing of it. */
async function notOurs(on: Cluster, { owner }: DatabaseAddresses): Promise<string[]> {
  await dropDatabase(on, OURS);
  const made = await databaseInCluster(on, OURS);
  await migrate(made);
  const [is, ours] = [await withDatabase(owner, catalogueOf), await withDatabase(made.owner, catalogueOf)];
  return [
    ...is.filter((line) => !ours.includes(line)).map((line) => `Patient Shelf did not make this ${line}.`),
    ...ours.filter((line) => !is.includes(line)).map((line) => `It lacks the ${line}.`),
  ];
}

async function withDatabase<T>(url: string, ask: (db: Database) => Promise<T>): Promise<T> {
  const db = openDatabase(url);
  try {
    return await ask(db);
  } finally {
    await db.destroy();
  }
}

async function holdsLedger(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<{ there: boolean }>(
    `select to_regclass('public.act') is not null and to_regclass('public.kysely_migration') is not null as there`,
  );
  await client.end();
  return rows[0]?.there === true;
}
