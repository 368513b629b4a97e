import { rebuildProjections } from '../service/ledgers/rebuild';
import { openDatabase } from '../store/database';
import { startCluster, type Cluster } from './cluster';
import { databaseAt, databaseInCluster, isDatabase, migrate } from './databases';
import { openDataFolder } from './folders';
import { installedFolder } from './installation';
import { databaseName } from './options';
import { claimFolder } from './running';
import { openSecrets } from './secrets';
import { explain, Sentence } from './sentence';

/** Makes all projections again from the ledger alone. The application is stopped meanwhile. */
const isDemo = process.argv.includes('--demo');
let cluster: Cluster | undefined;
let code = 0;
try {
  const external = process.env['DATABASE_URL'] ?? '';
  const folder = external === '' ? installedFolder('bin/rebuild') : openDataFolder();
  const release = claimFolder(folder, 'no address: what is computed is being made again');
  try {
    if (external === '') cluster = await startCluster(folder, openSecrets(folder));
    const name = databaseName(isDemo);
    if (cluster && !(await isDatabase(cluster, name)))
      throw new Sentence(`There is no database ${name} in ${folder}, and nothing was done.`);
    const addresses = cluster ? await databaseInCluster(cluster, name) : await databaseAt(external);
    await migrate(addresses);
    const db = openDatabase(addresses.app);
    const count = await rebuildProjections(db);
    await db.destroy();
    console.log(
      `Made again from the ledger: ${String(count)} ${count === 1 ? 'unit' : 'units'}${external === '' ? `, in ${folder}` : ''}.`,
    );
  } finally {
    release();
  }
} catch (error) {
  code = explain(error);
} finally {
  await cluster?.stop();
}
process.exit(code);
