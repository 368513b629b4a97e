import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { postgresPrograms } from './packages';
import { Sentence } from './sentence';

/** Runs one of PostgreSQL's own programs on a database; the password travels in the environment, not on the command line. */
function onDatabase(
  program: 'pg_dump' | 'pg_restore',
  address: string,
  args: readonly string[],
): { readonly ok: boolean; readonly why: string } {
  const { hostname, port, username, password, pathname } = new URL(address);
  const where = [
    '-h',
    hostname,
    '-p',
    port === '' ? '5432' : port,
    '-U',
    decodeURIComponent(username),
    '-d',
    pathname.slice(1),
  ];
  const env = { ...process.env, PGPASSWORD: decodeURIComponent(password) };
  const { status, stderr } = spawnSync(join(postgresPrograms(), program), [...where, ...args], {
    env,
    encoding: 'utf8',
  });
  return { ok: status === 0, why: stderr.trim().split('\n').at(-1) ?? '' };
}

/** Writes a whole database into one file, in PostgreSQL's own format, as it stands at one moment. */
export function dumpTo(address: string, file: string): void {
  const { ok, why } = onDatabase('pg_dump', address, ['-Fc', '--no-owner', '--no-acl', '-f', file]);
  if (!ok) throw new Sentence(`The backup could not be written: ${why}.`);
}

/** Reads a file written by `dumpTo` from its first byte to its last, into nothing: what cannot be read is no backup. */
export function readBack(file: string): void {
  const { status, stderr } = spawnSync(join(postgresPrograms(), 'pg_restore'), ['-f', '/dev/null', file], {
    encoding: 'utf8',
  });
  if (status !== 0)
    throw new Sentence(`The backup was written and cannot be read back: ${stderr.trim().split('\n').at(-1) ?? ''}.`);
}

/** Reads a file written by `dumpTo` into an empty database, all of it or nothing. */
export function restoreFrom(address: string, file: string): void {
  const { ok, why } = onDatabase('pg_restore', address, [
    '--no-owner',
    '--no-acl',
    '--exit-on-error',
    '--single-transaction',
    file,
  ]);
  if (!ok) throw new Sentence(`${file} could not be read as a backup: ${why}.`);
}
