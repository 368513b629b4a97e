import { rebuildProjections } from '../service/ledgers/rebuild';
import { openDatabase } from '../store/database';
import { startCluster, type Cluster } from './cluster';
import { databaseAt, databaseInCluster, migrate } from './databases';
import { openDataFolder } from './folders';
import { claimFolder } from './running';
import { openSecrets } from './secrets';
import { explain } from './sentence';

/** Makes all projections again from the ledger alone. The application is stopped meanwhile. */
const isDemo = process.argv.includes('--demo');
let cluster: Cluster | undefined;
let code = 0;
try {
  const folder = openDataFolder();
  const release = claimFolder(folder, 'no address: what is computed is being made again');
  try {
    const external = process.env['DATABASE_URL'] ?? '';
    if (external === '') cluster = await startCluster(folder, openSecrets(folder));
    const addresses = cluster
      ? await databaseInCluster(cluster, isDemo ? 'patient_shelf_demo' : 'patient_shelf')
      : await databaseAt(external);
    await migrate(addresses);
    const db = openDatabase(addresses.app);
    const count = await rebuildProjections(db);
    await db.destroy();
    console.log(`Made again from the ledger: ${String(count)} ${count === 1 ? 'unit' : 'units'}.`);
  } finally {
    release();
  }
} catch (error) {
  code = explain(error);
} finally {
  await cluster?.stop();
}
process.exit(code);
