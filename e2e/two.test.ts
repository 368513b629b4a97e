import { chmodSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { startCluster } from '../ops/cluster';
import { databaseAt } from '../ops/databases';
import { openSecrets } from '../ops/secrets';
import { newDataFolder, startAndEnd, startShelf, type StartedShelf } from './startShelf';

/** One PostgreSQL, and two applications on it as on two machines: data folders of their own, one secret. */
it('is one shelf on two machines, and goes on when one of them is gone', async () => {
  const [database, one, two] = [newDataFolder(), newDataFolder(), newDataFolder()];
  mkdirSync(join(database.path, 'log'));
  // The database's own user passes through it.
  chmodSync(database.path, 0o711);
  const cluster = await startCluster(database.path, openSecrets(database.path));
  const administrator = new pg.Client({ connectionString: cluster.url('postgres', 'postgres') });
  await administrator.connect();
  await administrator.query('create database shared');
  const secretFile = join(database.path, 'secret');
  writeFileSync(secretFile, 'a secret of chance that is long enough for two');
  const env = { DATABASE_URL: cluster.url('postgres', 'shared'), PATIENT_SHELF_SECRET_FILE: secretFile };
  expect(
    await startAndEnd({
      data: one.path,
      args: [],
      env: { ...env, PATIENT_SHELF_SECRET_FILE: '', PATIENT_SHELF_SECRET: 'short' },
    }),
  ).toEqual({
    code: 1,
    output: expect.stringContaining('The shared secret has 5 characters'),
  });

  // The role is the server's: many that make it at once, from two databases of it, do not refuse each other.
  await administrator.query('create database beside');
  await Promise.all(
    Array.from({ length: 12 }, (_, i) => databaseAt(cluster.url('postgres', i % 2 === 0 ? 'shared' : 'beside'))),
  );
  await administrator.query('drop database beside');

  // Both begin at once: the tables are made once.
  const [first, second] = await Promise.all([
    startShelf({ data: one.path, args: [], env }),
    startShelf({ data: two.path, args: [], env }),
  ]);
  const enter = (shelf: StartedShelf, body: object): Promise<Response> =>
    fetch(`${shelf.base}/api/auth/entry`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: shelf.base },
      body: JSON.stringify(body),
    });
  const key = new URL(first.link).searchParams.get('key') ?? '';
  // The link of one opens the other.
  const entered = await enter(second, { key, name: 'Ann', email: 'ann@example.org', password: 'long enough, this' });
  expect(entered.status).toBe(200);
  expect(
    (await enter(first, { key, name: 'Eve', email: 'eve@example.org', password: 'long enough, this' })).status,
  ).toBe(410);
  const cookie = (entered.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  const ask = (shelf: StartedShelf, path: string, body?: object): Promise<Response> =>
    fetch(`${shelf.base}/api/v1${path}`, {
      headers: { cookie, origin: shelf.base, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
    });
  const made = (await (
    await ask(first, '/units', { name: 'Teal', place: { site: 'S', room: 'R' }, profile: 'plain', bays: 2 })
  ).json()) as {
    id: string;
    version: number;
  };
  expect(await (await ask(second, `/units/${made.id}`)).json()).toMatchObject({ state: { name: 'Teal' } });
  const note = (shelf: StartedShelf, expectedVersion: number): Promise<Response> =>
    ask(shelf, `/units/${made.id}/events`, { expectedVersion, event: { kind: 'noted', note: 'seen' } });
  // Two at once on two machines: one of them was first.
  const both = await Promise.all([note(first, made.version), note(second, made.version)]);
  expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);

  // Guesses on one count on the other.
  const guess = (shelf: StartedShelf): Promise<Response> => enter(shelf, { key: 'wrong' });
  let status = 0;
  for (let i = 0; i < 40 && status !== 429; i++) status = (await guess(i % 2 === 0 ? first : second)).status;
  expect([(await guess(first)).status, (await guess(second)).status]).toEqual([429, 429]);

  // One is gone in the middle of it.
  first.process.kill('SIGKILL');
  expect((await note(second, made.version + 1)).status).toBe(201);
  expect(await (await ask(second, `/units/${made.id}`)).json()).toMatchObject({ version: made.version + 2 });
  await second.stop();
  await administrator.end();
  await cluster.stop();
  for (const folder of [one, two, database]) folder.remove();
});
