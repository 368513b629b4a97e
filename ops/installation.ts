import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { holdsCluster } from './cluster';
import { openDataFolder, ROOT } from './folders';
import { Sentence } from './sentence';

/** Where the installation of this checkout says that it keeps its data: in the folder every checkout has for it. */
const SIGN = join(ROOT, '.data', 'installation.json');

/** Says where the installation that runs from this checkout keeps its data, for whoever works beside it from another shell. */
export function signInstallation(folder: string, sign = SIGN): void {
  // Shelves that tests start are no installation.
  if (sign === SIGN && (process.env['SHELF_TEST_FOLDER'] ?? '') !== '') return;
  try {
    mkdirSync(resolve(sign, '..'), { recursive: true });
    writeFileSync(sign, `${JSON.stringify({ data: folder })}\n`);
  } catch {
    // A checkout that nobody may write to says nothing; then the folder is given each time.
  }
}

/** Where an installation of this checkout keeps its data, or one will that is made there: for what may begin with nothing, as a restore on a new machine. */
export function folderOfShelf(sign = SIGN): string {
  process.env['PATIENT_SHELF_DATA'] = folderSaid(sign);
  return openDataFolder();
}

/** The folder that was said, in the environment or by the installation itself. */
function folderSaid(sign: string): string {
  const given = process.env['PATIENT_SHELF_DATA'] ?? '';
  if (given !== '') return resolve(given);
  try {
    const said = JSON.parse(readFileSync(sign, 'utf8')) as { data?: unknown };
    if (typeof said.data === 'string' && existsSync(said.data)) return said.data;
  } catch {
    // Never started from here.
  }
  return join(ROOT, '.data');
}

/**
 * The data folder of an installation that is there. It is never made: what works beside one finds it, or says what is to be given.
 *
 * @param command as it is called: "bin/backup"
 */
export function installedFolder(command: string, sign = SIGN): string {
  const folder = folderSaid(sign);
  const secrets = join(folder, 'secrets.json');
  const none = new Sentence(
    `There is no Patient Shelf in ${folder}, and nothing was done. Say where it keeps its data, as the user it runs as: ${asGiven(command)}`,
  );
  if (!existsSync(secrets)) throw none;
  // Also of the administrator: what is written there as another would be in its way at night.
  const { uid } = statSync(secrets);
  const own = process.getuid?.() ?? uid;
  if (uid !== own)
    throw new Sentence(
      `The Patient Shelf in ${folder} is run by ${nameOf(uid)}, not by ${nameOf(own)}, and nothing was done: ${asGiven(command, nameOf(uid), folder)}`,
    );
  if (!holdsCluster(folder)) throw none;
  process.env['PATIENT_SHELF_DATA'] = folder;
  return openDataFolder();
}

function asGiven(command: string, user = 'patient-shelf', folder = '/var/lib/patient-shelf'): string {
  return `sudo -u ${user} env PATIENT_SHELF_DATA=${folder} ${command}`;
}

/** A user by name; by number where the machine knows none. */
function nameOf(uid: number): string {
  const name = spawnSync('id', ['-nu', String(uid)], { encoding: 'utf8' }).stdout.trim();
  return name === '' ? `user ${String(uid)}` : name;
}
