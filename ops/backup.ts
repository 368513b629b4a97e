import { chmodSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { writeChecksum } from './checksum';
import { runningCluster, startCluster, type Cluster } from './cluster';
import { contentOf, contentWords, isDatabase, noteBackup } from './databases';
import { dumpTo, readBack } from './dump';
import { openDataFolder } from './folders';
import { installedFolder } from './installation';
import { databaseName, fileAndDemo } from './options';
import { openSecrets } from './secrets';
import { explain, Sentence } from './sentence';

/**
 * Writes everything into one file, whether the application is running or not. It makes no database: where there is none there is
 * nothing to back up, and a file of nothing would be taken for a backup.
 */
const USAGE = 'Usage: bin/backup [--demo] [--keep N] [--empty] [file]';
/** What this program calls them; nothing else in the folder for backups is ever removed. */
const OURS = /^patient-shelf-\d{4}-\d\d-\d\dT\d{6}\.backup$/;
let started: Cluster | undefined;
let code = 0;
try {
  const { file, isDemo, isEmpty, keep } = fileAndDemo(process.argv.slice(2), USAGE, ['empty', 'keep']);
  if (file !== undefined && keep !== undefined)
    throw new Sentence(`--keep is of the folder for backups: leave out the file. ${USAGE}`);
  const external = process.env['DATABASE_URL'] ?? '';
  const folder = external === '' ? installedFolder('bin/backup') : openDataFolder();
  const backups = join(folder, 'backups');
  const name = `patient-shelf-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.backup`;
  const target = resolve(file ?? join(backups, name));
  if (existsSync(target))
    throw new Sentence(`${target} is there already: name another file, so that no backup is written over.`);
  let [address, where] = [external, 'the database in DATABASE_URL'];
  if (external === '') {
    const secrets = openSecrets(folder);
    const cluster = runningCluster(folder, secrets) ?? (started = await startCluster(folder, secrets));
    const database = databaseName(isDemo);
    if (!(await isDatabase(cluster, database)))
      throw new Sentence(
        `There is no database ${database} in ${folder}, and nothing was backed up.${isDemo ? '' : ' Of a demo: bin/backup --demo.'}`,
      );
    [address, where] = [cluster.url('patient_shelf_owner', database), folder];
  }
  const content = await contentOf(address);
  if (content === null || (content.entries === 0 && !isEmpty))
    throw new Sentence(
      `${content === null ? 'No shelf' : 'An empty one'} is in ${where}, and nothing was backed up. ${content === null ? 'Is it the right folder?' : 'If that is meant: bin/backup --empty.'}`,
    );
  mkdirSync(dirname(target), { recursive: true });
  // Written beside and renamed: a file of that name is a whole backup.
  const part = `${target}.part`;
  try {
    dumpTo(address, part);
    chmodSync(part, 0o600);
    readBack(part);
    await writeChecksum(target, part);
    renameSync(part, target);
  } finally {
    rmSync(part, { force: true });
  }
  const { size: bytes } = statSync(target);
  const size = String(Math.ceil(bytes / 1000));
  const isNoted = await noteBackup(address, bytes, content.entries);
  console.log(
    `Backed up into ${target} (${size} kB): ${contentWords(content)}, of ${where}. It was read back to its end. Keep it elsewhere: it holds everything, sign-ins included.`,
  );
  if (!isNoted) console.log('The shelf could not be told of it: Settings shows the one before.');
  if (keep !== undefined) {
    const old = readdirSync(backups)
      .filter((one) => OURS.test(one))
      .sort()
      .slice(0, -keep);
    for (const one of old) for (const of of [one, `${one}.sha256`]) rmSync(join(backups, of), { force: true });
    if (old.length > 0)
      console.log(`${String(old.length)} older ${old.length === 1 ? 'one was' : 'ones were'} removed.`);
  }
} catch (error) {
  code = explain(error);
} finally {
  await started?.stop();
}
process.exit(code);
