import { randomUUID } from 'node:crypto';
import type { Cluster } from './cluster';
import { databaseInCluster, migrate, type DatabaseAddresses } from './databases';

/** A new, empty, migrated database in the cluster that bin/test runs; for tests. */
export async function freshDatabase(): Promise<DatabaseAddresses & { readonly superuser: string }> {
  const urls = JSON.parse(process.env['SHELF_TEST_URLS'] ?? 'null') as Record<string, string> | null;
  if (urls === null) throw new Error('These tests need a database: run them with bin/test store.');
  const url: Cluster['url'] = (role, database) => (urls[role] as string).replace('DATABASE', database);
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  const addresses = await databaseInCluster({ url }, name);
  await migrate(addresses);
  return { ...addresses, superuser: url('postgres', name) };
}
