import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startCluster } from './cluster';
import { databaseInCluster, migrate } from './databases';
import { openDataFolder, ROOT } from './folders';
import { openSecrets } from './secrets';

/** Writes store/generated.ts anew from the tables as the migrations make them, in a cluster made for the purpose. */
const folder = mkdtempSync(join(tmpdir(), 'patient-shelf-types-'));
process.env['PATIENT_SHELF_DATA'] = folder;
const data = openDataFolder();
const cluster = await startCluster(data, openSecrets(data));
try {
  const addresses = await databaseInCluster(cluster, 'types');
  await migrate(addresses);
  const codegen = join(ROOT, 'node_modules', 'kysely-codegen', 'dist', 'cli', 'bin.js');
  spawnSync(
    process.execPath,
    [
      codegen,
      '--dialect',
      'postgres',
      '--url',
      addresses.owner,
      '--out-file',
      'store/generated.ts',
      '--exclude-pattern',
      'kysely_*',
    ],
    { cwd: ROOT, stdio: 'inherit' },
  );
} finally {
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
}
