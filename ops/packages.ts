import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Sentence } from './sentence';

const POSTGRES_HOME = '/usr/lib/postgresql';
const CHROMIUM = '/usr/bin/chromium';
const OPENSSL = '/usr/bin/openssl';

/**
 * The folder of PostgreSQL's server programs, installed from Debian's packages when missing.
 *
 * @param major the version an existing cluster needs; the newest there is otherwise
 */
export function postgresPrograms(major?: string): string {
  const find = (): string | undefined => {
    const versions = existsSync(POSTGRES_HOME)
      ? readdirSync(POSTGRES_HOME).filter((name) => existsSync(join(POSTGRES_HOME, name, 'bin', 'initdb')))
      : [];
    const version = versions
      .sort((a, b) => Number(b) - Number(a))
      .find((name) => major === undefined || name === major);
    return version === undefined ? undefined : join(POSTGRES_HOME, version, 'bin');
  };
  const found = find() ?? (install('postgresql'), find());
  if (found === undefined) {
    throw new Sentence(
      major === undefined
        ? 'PostgreSQL was installed, but its server programs are not where Debian puts them.'
        : `The data was written by PostgreSQL ${major}, which is not installed here.`,
    );
  }
  return found;
}

/** Debian's Chromium, for the end-to-end tests and the pictures. */
export function chromium(): string {
  if (!existsSync(CHROMIUM)) install('chromium');
  if (!existsSync(CHROMIUM)) throw new Sentence('Chromium was installed, but is not at /usr/bin/chromium.');
  return CHROMIUM;
}

/** Runs Debian's openssl: the tests make certificates with it. */
export function openssl(args: readonly string[]): void {
  if (!existsSync(OPENSSL)) install('openssl');
  const { status, stderr } = spawnSync(OPENSSL, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
}

function install(name: string): void {
  if (process.getuid?.() !== 0)
    throw new Sentence(
      `The Debian package ${name} is missing: install it with "apt-get install ${name}" as root, then start again.`,
    );
  if (spawnSync('apt-get', ['--version']).status !== 0)
    throw new Sentence(`${name} is missing, and this is not Debian: install it by hand, then start again.`);
  console.error(`Installing ${name} from Debian's packages …`);
  // The packaged cluster is not wanted: this program runs its own, and only on loopback.
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const apt = (args: string[]): boolean =>
    spawnSync('apt-get', args, { env, stdio: ['ignore', 'ignore', 'pipe'] }).status === 0;
  apt(['update']);
  if (!apt(['install', '-y', '--no-install-recommends', name]))
    throw new Sentence(`The Debian package ${name} could not be installed: check the package sources of this machine.`);
}
