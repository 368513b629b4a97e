import { spawnSync } from 'node:child_process';
import { chownSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { startCluster } from '../ops/cluster';
import { installedFolder, signInstallation } from '../ops/installation';
import { openSecrets } from '../ops/secrets';
import { newDataFolder, startShelf } from './startShelf';

const run = (data: string, command: string, ...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(command, args, {
    env: { ...process.env, NODE_OPTIONS: '', PATIENT_SHELF_DATA: data },
    encoding: 'utf8',
  });
  return { code: status, output: (stdout + stderr).trim() };
};

/** What the process that tells people writes by itself, between a backup and the end; and that there was one. */
const LIVING = ['backup_made', 'heartbeat', 'cause', 'told', 'tell_rule', 'letter'].map((name) => `public.${name}`);

/** Everything in every table, a hash of the rows in order: two databases of one content give one text. */
async function contentOf(data: string): Promise<Record<string, string>> {
  const cluster = await startCluster(data, openSecrets(data));
  const client = new pg.Client({ connectionString: cluster.url('patient_shelf_owner', 'patient_shelf_demo') });
  await client.connect();
  const { rows: tables } = await client.query<{ name: string }>(
    `select quote_ident(schemaname) || '.' || quote_ident(tablename) as name from pg_tables where schemaname in ('public', 'auth') order by 1`,
  );
  const content: Record<string, string> = {};
  for (const { name } of tables.filter((table) => !LIVING.includes(table.name))) {
    const { rows } = await client.query<{ hash: string }>(
      `select count(*) || ' ' || coalesce(md5(string_agg(t::text, E'\\n' order by t::text)), '') as hash from ${name} t`,
    );
    content[name] = rows[0]?.hash ?? '';
  }
  await client.end();
  await cluster.stop();
  return content;
}

it('makes no database to back up: of nothing, of another database, of another user, of an empty shelf it refuses, and writes no file', async () => {
  const none = newDataFolder();
  const refuses = (command: string): void => {
    const said = run(none.path, command);
    expect([command, said.code, said.output]).toEqual([
      command,
      1,
      expect.stringMatching(
        /^There is no Patient Shelf in .*, and nothing was done\. Say where it keeps its data, .*: sudo -u /,
      ),
    ]);
  };
  refuses('bin/backup');
  refuses('bin/rebuild');
  expect(readdirSync(none.path)).toEqual([]);
  none.remove();

  // A shelf that runs, in which nothing was recorded yet.
  const data = newDataFolder();
  const shelf = await startShelf({ data: data.path, args: [] });
  const backups = join(data.path, 'backups');
  expect(run(data.path, 'bin/backup')).toMatchObject({
    code: 1,
    output: expect.stringMatching(
      /^An empty one is in .*, and nothing was backed up\. If that is meant: bin\/backup --empty\.$/,
    ),
  });
  expect(run(data.path, 'bin/backup', '--demo').output).toMatch(/^There is no database patient_shelf_demo in /);
  expect(existsSync(backups)).toBe(false);
  expect(run(data.path, 'bin/backup', '--empty')).toMatchObject({
    code: 0,
    output: expect.stringMatching(/: 0 units, 0 entries, 0 readings, of /),
  });
  // Stopped it is the same; the newest are kept, and what is not of this program stays.
  await shelf.stop();
  for (const name of [
    'patient-shelf-2020-01-01T000000.backup',
    'patient-shelf-2020-01-02T000000.backup',
    'mine.backup',
  ])
    for (const file of [name, `${name}.sha256`]) writeFileSync(join(backups, file), '');
  const kept = run(data.path, 'bin/backup', '--empty', '--keep', '2');
  expect([kept.code, kept.output]).toEqual([0, expect.stringMatching(/^2 older ones were removed\.$/m)]);
  const left = readdirSync(backups).filter((name) => name.endsWith('.backup'));
  expect(left.filter((name) => name !== 'mine.backup').map((name) => name.slice(0, 17))).toEqual([
    expect.stringMatching(/^patient-shelf-2\d\d$/),
    expect.stringMatching(/^patient-shelf-2\d\d$/),
  ]);
  expect([left.length, left.some((name) => name.includes('2020'))]).toEqual([3, false]);
  expect(run(data.path, 'bin/backup', '--keep', 'all').output).toMatch(/^--keep is a number from 1 to 9999/);

  // Whoever else: what belongs to another user is that user's to back up.
  const secrets = join(data.path, 'secrets.json');
  if (process.getuid?.() === 0) {
    chownSync(secrets, 65_534, 65_534);
    const other = run(data.path, 'bin/backup', '--empty');
    expect([other.code, other.output]).toEqual([
      1,
      expect.stringMatching(
        /is run by \S+, not by root, and nothing was done: sudo -u \S+ env PATIENT_SHELF_DATA=\S+ bin\/backup$/,
      ),
    ]);
  }
  data.remove();
});

it('is found by the installation that was last started from the checkout, from any other shell', () => {
  const [data, checkout] = [newDataFolder(), newDataFolder()];
  const sign = join(checkout.path, 'installation.json');
  writeFileSync(join(data.path, 'secrets.json'), '{}');
  mkdirSync(join(data.path, 'postgres'));
  writeFileSync(join(data.path, 'postgres', 'PG_VERSION'), '15');
  const given = process.env['PATIENT_SHELF_DATA'];
  try {
    delete process.env['PATIENT_SHELF_DATA'];
    signInstallation(data.path, sign);
    expect(installedFolder('bin/backup', sign)).toBe(data.path);
    // What is given counts before what is said.
    process.env['PATIENT_SHELF_DATA'] = checkout.path;
    expect(() => installedFolder('bin/backup', sign)).toThrow(`There is no Patient Shelf in ${checkout.path}`);
  } finally {
    delete process.env['PATIENT_SHELF_DATA'];
    if (given !== undefined) process.env['PATIENT_SHELF_DATA'] = given;
  }
  data.remove();
  checkout.remove();
});

it('brings a database back byte for byte in content, taken while it runs', async () => {
  const data = newDataFolder();
  const file = join(data.path, 'one.backup');
  const shelf = await startShelf({ data: data.path, env: { SHELF_ENTRY_KEY: 'backup-key' } });
  const ask = (path: string, body?: object): Promise<Response> =>
    fetch(`${shelf.base}/api/v1${path}`, {
      headers: { authorization: 'Bearer backup-key', 'content-type': 'application/json' },
      ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
    });
  const { units } = (await (await ask('/units')).json()) as {
    units: { id: string; version: number; state: { name: string } }[];
  };
  const heron = units.find(({ state }) => state.name === 'Heron');
  const note = (text: string, expectedVersion: number) =>
    ask(`/units/${heron?.id ?? ''}/events`, { expectedVersion, event: { kind: 'noted', note: text } });
  expect((await note('before', heron?.version ?? 0)).status).toBe(201);
  const backed = run(data.path, 'bin/backup', '--demo', file);
  expect([backed.code, backed.output]).toEqual([
    0,
    expect.stringMatching(
      /^Backed up into .*one\.backup \(\d+ kB\): \d+ units, \d{3,} entries, \d{3,} readings, of .*\. It was read back to its end\. Keep it elsewhere/,
    ),
  ]);
  // It is known of from then on, to whoever looks after the server.
  const { lastBackup } = (await (await fetch(`${shelf.base}/api/health`)).json()) as {
    lastBackup: { at: string; bytes: number } | null;
  };
  expect(lastBackup?.bytes).toBe(statSync(file).size);
  expect(run(data.path, 'bin/backup', '--demo', file)).toMatchObject({
    code: 1,
    output: expect.stringContaining('is there already'),
  });
  expect(run(data.path, 'bin/restore', '--demo', file)).toMatchObject({
    code: 1,
    output: expect.stringContaining('is running already'),
  });
  await shelf.stop();
  const before = await contentOf(data.path);
  expect(before['public.entry']).toMatch(/^[1-9]\d+ /);

  // Another entry after the backup: the restore takes the shelf back to before it.
  const again = await startShelf({ data: data.path, env: { SHELF_ENTRY_KEY: 'backup-key' } });
  const link = (path: string, body: object): Promise<Response> =>
    fetch(`${again.base}/api/v1${path}`, {
      method: 'POST',
      headers: { authorization: 'Bearer backup-key', 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  expect(
    (
      await link(`/units/${heron?.id ?? ''}/events`, {
        expectedVersion: (heron?.version ?? 0) + 1,
        event: { kind: 'noted', note: 'after' },
      })
    ).status,
  ).toBe(201);
  await again.stop();
  expect(await contentOf(data.path)).not.toEqual(before);
  const restored = run(data.path, 'bin/restore', '--demo', file);
  expect([restored.code, restored.output]).toEqual([
    0,
    expect.stringMatching(
      /^Restored from .*one\.backup\. What was there before is kept as the database patient_shelf_demo_before_\d+\.\nIt is in .*: \d+ units, \d+ entries, \d+ readings\.$/,
    ),
  ]);
  expect(await contentOf(data.path)).toEqual(before);

  // Also on a machine that has nothing yet.
  const elsewhere = newDataFolder();
  expect(run(elsewhere.path, 'bin/restore', '--demo', file)).toMatchObject({
    code: 0,
    output: expect.stringMatching(/^Restored from .*one\.backup\.$/m),
  });
  expect(await contentOf(elsewhere.path)).toEqual(before);

  // What was altered since is told by its checksum; without one, that there was none.
  const altered = join(data.path, 'altered.backup');
  const bytes = readFileSync(file);
  writeFileSync(`${altered}.sha256`, readFileSync(`${file}.sha256`));
  writeFileSync(altered, bytes.fill(0, bytes.length - 20));
  expect(run(data.path, 'bin/restore', '--demo', altered)).toMatchObject({
    code: 1,
    output: expect.stringContaining('is not as it was written'),
  });
  const bare = join(data.path, 'bare.backup');
  writeFileSync(bare, readFileSync(file));
  expect(run(elsewhere.path, 'bin/restore', '--demo', bare).output).toContain('There was no checksum beside it');

  // What no program of this kind has written is named, and nothing is replaced.
  const cluster = await startCluster(elsewhere.path, openSecrets(elsewhere.path));
  const sly = new pg.Client({ connectionString: cluster.url('patient_shelf_owner', 'patient_shelf_demo') });
  await sly.connect();
  await sly.query(`create function sly() returns trigger language plpgsql as 'begin return null; end';
    create trigger quiet before insert on entry for each row execute function sly();
    delete from entry where ledger = 'unit' and seq = 2;
    update drive_now set condition = 'failed' where serial = (select min(serial) from drive_now where condition = 'well')`);
  await sly.end();
  await cluster.stop();
  const forged = join(data.path, 'forged.backup');
  expect(run(elsewhere.path, 'bin/backup', '--demo', forged).code).toBe(0);
  const named = run(data.path, 'bin/restore', '--demo', forged);
  expect(named.code).toBe(1);
  for (const part of [
    'Nothing was replaced',
    'function public.sly()',
    'CREATE TRIGGER quiet',
    'entries numbered up to',
  ])
    expect(named.output).toContain(part);
  expect(await contentOf(data.path)).toEqual(before);
  // Not by saying so either.
  expect(run(data.path, 'bin/restore', '--demo', '--anyway', forged).code).toBe(1);

  // What is whole and only odd is taken by whoever has nothing better, and says what it is.
  const third = newDataFolder();
  expect(run(third.path, 'bin/restore', '--demo', file).code).toBe(0);
  const whole = await startCluster(third.path, openSecrets(third.path));
  const nobody = new pg.Client({ connectionString: whole.url('patient_shelf_owner', 'patient_shelf_demo') });
  await nobody.connect();
  await nobody.query(`update act set by_name = ' ' where n = 1`);
  await nobody.end();
  await whole.stop();
  const odd = join(data.path, 'odd.backup');
  expect(run(third.path, 'bin/backup', '--demo', odd).code).toBe(0);
  expect(run(third.path, 'bin/restore', '--demo', odd)).toMatchObject({
    code: 1,
    output: expect.stringMatching(/is by nobody\.[^]*--anyway takes it as it is/),
  });
  expect(run(third.path, 'bin/restore', '--demo', '--anyway', odd)).toMatchObject({
    code: 0,
    output: expect.stringMatching(/Restored from[^]*Taken as it is:\n- Act .* is by nobody/),
  });
  third.remove();

  // What is none leaves everything as it is.
  const none = join(data.path, 'none.backup');
  writeFileSync(none, readFileSync(file).subarray(0, 4000));
  expect(run(data.path, 'bin/restore', '--demo', none)).toMatchObject({
    code: 1,
    output: expect.stringContaining('could not be read as a backup'),
  });
  expect(run(data.path, 'bin/restore', '--demo')).toMatchObject({
    code: 1,
    output: 'Which backup? Usage: bin/restore [--demo] [--anyway] file',
  });
  expect(run(data.path, 'bin/restore', '--demo', join(data.path, 'nowhere'))).toMatchObject({
    code: 1,
    output: expect.stringContaining('There is no file'),
  });
  expect(await contentOf(data.path)).toEqual(before);
  expect(existsSync(`${file}.part`)).toBe(false);
  elsewhere.remove();
  data.remove();
});
