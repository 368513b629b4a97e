import { chmodSync, existsSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { writeChecksum } from './checksum';
import { runningCluster, startCluster, type Cluster } from './cluster';
import { databaseInCluster } from './databases';
import { dumpTo } from './dump';
import { openDataFolder } from './folders';
import { databaseName, fileAndDemo } from './options';
import { openSecrets } from './secrets';
import { explain, Sentence } from './sentence';

/** Writes everything into one file, whether the application is running or not. */
const USAGE = 'Usage: bin/backup [--demo] [file]';
let started: Cluster | undefined;
let code = 0;
try {
  const { file, isDemo } = fileAndDemo(process.argv.slice(2), USAGE);
  const folder = openDataFolder();
  const name = `patient-shelf-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.backup`;
  const target = resolve(file ?? join(folder, 'backups', name));
  if (existsSync(target))
    throw new Sentence(`${target} is there already: name another file, so that no backup is written over.`);
  mkdirSync(dirname(target), { recursive: true });
  const external = process.env['DATABASE_URL'] ?? '';
  let address = external;
  if (external === '') {
    const secrets = openSecrets(folder);
    const cluster = runningCluster(folder, secrets) ?? (started = await startCluster(folder, secrets));
    address = (await databaseInCluster(cluster, databaseName(isDemo))).owner;
  }
  // Written beside and renamed: a file of that name is a whole backup.
  const part = `${target}.part`;
  try {
    dumpTo(address, part);
    chmodSync(part, 0o600);
    await writeChecksum(target, part);
    renameSync(part, target);
  } finally {
    rmSync(part, { force: true });
  }
  console.log(
    `Backed up into ${target} (${String(Math.ceil(statSync(target).size / 1000))} kB). Keep it elsewhere: it holds everything, sign-ins included.`,
  );
} catch (error) {
  code = explain(error);
} finally {
  await started?.stop();
}
process.exit(code);
