import { spawnSync } from 'node:child_process';
import { getMigrations } from 'better-auth/db/migration';
import { Kysely, PostgresDialect, sql } from 'kysely';
import pg from 'pg';
import { freshDatabase } from '~/ops/freshDatabase';
import { migrate } from '~/ops/databases';
import { createAuth } from '~/service/access/auth';
import { openDatabase } from './database';
import { migrateToLatest } from './migrate';

const open = (url: string) =>
  new Kysely<unknown>({ dialect: new PostgresDialect({ pool: new pg.Pool({ connectionString: url }) }) });

it('has types that are generated from the tables as they are', async () => {
  const { owner } = await freshDatabase();
  const codegen = [
    'node_modules/kysely-codegen/dist/cli/bin.js',
    '--dialect',
    'postgres',
    '--url',
    owner,
    '--out-file',
    'store/generated.ts',
    '--exclude-pattern',
    'kysely_*',
    '--verify',
  ];
  const { status, stdout, stderr } = spawnSync(process.execPath, codegen, { encoding: 'utf8' });
  expect({ status, output: status === 0 ? '' : stdout + stderr }).toEqual({ status: 0, output: '' });
});

it('has the sign-in library’s tables as the library wants them', async () => {
  const { owner } = await freshDatabase();
  const db = openDatabase(owner);
  const { toBeCreated, toBeAdded } = await getMigrations(
    createAuth(db, { baseUrl: 'http://127.0.0.1:1', secret: 'x'.repeat(64) }).options,
  );
  expect([toBeCreated, toBeAdded]).toEqual([[], []]);
  await db.destroy();
});

it('migrates once, however often and from however many it is told', async () => {
  const addresses = await freshDatabase();
  await Promise.all([migrate(addresses), migrate(addresses)]);
  const db = open(addresses.owner);
  const { rows } = await sql<{ n: string }>`select count(*) as n from kysely_migration`.execute(db);
  expect(Number(rows[0]?.n)).toBe(12);
  await db.destroy();
});

it('leaves a database alone that a newer program has written', async () => {
  const addresses = await freshDatabase();
  const db = open(addresses.owner);
  await sql`insert into kysely_migration (name, timestamp) values ('999_from_the_future', now()::text)`.execute(db);
  expect(await migrateToLatest(db)).toEqual({ kind: 'newer-than-program', unknown: '999_from_the_future' });
  await expect(migrate(addresses)).rejects.toThrow(/written by a newer Patient Shelf/);
  await db.destroy();
});

it('lets in nobody without a password', async () => {
  const { app } = await freshDatabase();
  for (const [user, password] of [
    ['patient_shelf_app', 'guess'],
    ['postgres', 'postgres'],
  ] as const) {
    const url = new URL(app);
    url.username = user;
    url.password = password;
    const client = new pg.Client({ connectionString: url.toString() });
    await expect(client.connect()).rejects.toThrow(/password authentication failed/);
    await client.end();
  }
});
