import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startApplication } from '../ops/application';
import { startCluster } from '../ops/cluster';
import { databaseInCluster, migrate } from '../ops/databases';
import { freePort } from '../ops/freePort';
import { oneFile } from '../ops/oneFile.mjs';
import { reachAsked } from '../ops/reach';
import { openSecrets } from '../ops/secrets';
import { openApp } from '../service/app';
import { hashOfKey } from '../service/access/oneTimeKey';
import { rebuildProjections } from '../service/ledgers/rebuild';
import { insertToken } from '../store/tokens';
import { newDataFolder } from './startShelf';

const KILLS = 50;
/** Every so many times all of the application is killed; the others, the part of it that writes. */
const WHOLE_EVERY = 10;
const UNITS = 4;
const TOGETHER = 3;

/** A small generator, so that a failure can be run again: the seed is in the test's name. */
const SEED = 20261125;
function random(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

interface Unit {
  readonly id: string;
}

/** Starts the part that writes, and waits until it listens. */
async function startDoor(
  program: string,
  port: number,
  base: string,
  url: string,
  secret: string,
): Promise<ChildProcess> {
  const child = spawn(process.execPath, [program], {
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      SHELF_PORT: String(port),
      SHELF_DATABASE_URL: url,
      SHELF_SECRET: secret,
      SHELF_BASE_URL: base,
    },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    detached: true,
  });
  await new Promise((resolve, reject) => {
    child.once('message', resolve);
    child.once('exit', (code) => reject(new Error(`The door ended by itself (${String(code)}).`)));
  });
  return child;
}

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

it(`loses no acknowledged act and leaves no half one in any ledger, killed ${String(KILLS)} times (seed ${String(SEED)})`, async () => {
  const data = newDataFolder();
  mkdirSync(join(data.path, 'log'), { recursive: true });
  // The database's own user must be able to pass through.
  chmodSync(data.path, 0o711);
  const secrets = openSecrets(data.path);
  // Inside the checkout: it looks for its packages from there.
  const program = join(process.cwd(), '.cache', `door-${String(process.pid)}.mjs`);
  await oneFile(process.cwd(), join(process.cwd(), 'e2e', 'doorOnly.ts'), program);
  const chance = random(SEED);
  const token = randomUUID();
  /** Acts the server has said it stored, by the word in their notes. */
  const acknowledged: string[] = [];
  /** How many were ever sent. */
  let sent = 0;
  const units: Unit[] = [];

  const ask = (base: string, path: string, body?: object): Promise<Response> =>
    fetch(`${base}/api/v1${path}`, {
      ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
    });

  /** Records acts over two units and a drive as fast as they are answered, until the server is gone. */
  const recordUntilGone = async (base: string, first: number): Promise<void> => {
    try {
      for (;;) {
        const group = `g${String(sent++)}`;
        const ledgers = [
          { unit: units[first]?.id },
          { unit: units[(first + 1) % UNITS]?.id },
          { drive: `kill-${String(first)}` },
        ];
        const entries = ledgers.map((ledger, i) => ({
          ...ledger,
          event: { kind: 'noted', note: `${group}/${String(i)}` },
        }));
        const response = await ask(base, '/acts', { id: randomUUID(), entries });
        if (response.status !== 201) throw new Error(`answered ${String(response.status)}: ${await response.text()}`);
        acknowledged.push(group);
      }
    } catch (error) {
      if (error instanceof Error && error.message.startsWith('answered 4')) throw error;
    }
  };

  for (let kill = 0; kill <= KILLS; kill++) {
    const cluster = await startCluster(data.path, secrets);
    const addresses = await databaseInCluster(cluster, 'patient_shelf');
    const port = await freePort();
    const base = `http://127.0.0.1:${String(port)}`;
    const settings = { databaseUrl: addresses.app, secret: secrets.sessions, baseUrl: base };
    if (kill === 0) {
      await migrate(addresses);
      const app = openApp({ ...settings, root: process.cwd() });
      const { internalAdapter } = await app.auth.$context;
      const { id } = await internalAdapter.createUser(
        { name: 'Recorder', email: 'r@example.org', emailVerified: false, role: 'keeper' },
        { method: 'admin' },
      );
      await insertToken(app.db, {
        id: randomUUID(),
        userId: id,
        name: 'test',
        hash: hashOfKey(token),
        scopes: ['read', 'write'],
      });
      await app.db.destroy();
    }
    const complete =
      kill % WHOLE_EVERY === 0 ? await startApplication(data.path, reachAsked({ port }, new Date()), settings) : null;
    const application = complete?.process ?? (await startDoor(program, port, base, addresses.app, secrets.sessions));
    if (kill === 0)
      for (let i = 0; i < UNITS; i++) {
        const made = (await (
          await ask(base, '/units', {
            name: `Unit ${String(i)}`,
            place: { site: 'S', room: 'R' },
            profile: 'plain',
            bays: 2,
          })
        ).json()) as Unit;
        units.push({ id: made.id });
        await ask(base, '/drives', {
          drives: [{ serial: `kill-${String(i)}`, drive: { bytes: 8e12, basis: 'exact' } }],
        });
      }
    if (kill === KILLS) {
      await complete?.stop();
      const app = openApp({ ...settings, root: process.cwd() });
      const rows = await app.db
        .selectFrom('entry')
        .select(['body', 'ledger', 'subject', 'act'])
        .where('kind', '=', 'noted')
        .execute();
      const notes = rows.map(({ body }) => (body as { note: string }).note);
      // Each once, and each act whole: in every ledger it touched.
      expect(new Set(notes).size).toBe(notes.length);
      const groups = new Map<string, Set<string>>();
      for (const [i, { ledger, subject, act }] of rows.entries()) {
        const group = `${notes[i]?.split('/')[0] ?? ''} ${act}`;
        groups.set(group, (groups.get(group) ?? new Set()).add(`${ledger} ${subject}`));
      }
      const whole = new Set([...groups.keys()].map((group) => group.split(' ')[0] ?? ''));
      expect(acknowledged.filter((group) => !whole.has(group))).toEqual([]);
      expect([groups.size, [...groups.values()].filter(({ size }) => size !== TOGETHER)]).toEqual([whole.size, []]);
      for (const { id } of units) {
        const counted = await app.db
          .selectFrom('entry')
          .select((of) => [of.fn.countAll<string>().as('n'), of.fn.max('seq').as('last')])
          .where('subject', '=', id)
          .executeTakeFirstOrThrow();
        const snapshot = await app.db
          .selectFrom('unit_now')
          .select('version')
          .where('unit', '=', id)
          .executeTakeFirstOrThrow();
        expect([Number(counted.n), snapshot.version]).toEqual([counted.last, counted.last]);
      }
      const before = await app.db.selectFrom('unit_now').selectAll().orderBy('unit').execute();
      await rebuildProjections(app.db);
      expect(await app.db.selectFrom('unit_now').selectAll().orderBy('unit').execute()).toEqual(before);
      await app.db.destroy();
      await cluster.stop();
    } else {
      const recording = Promise.all(units.map((_, i) => recordUntilGone(base, i)));
      // Not before the server has warmed up to its first answer, however long that takes: what is killed is recording.
      const stored = acknowledged.length;
      let isOver = false;
      void recording.finally(() => (isOver = true)).catch(() => undefined);
      while (acknowledged.length === stored && !isOver) await wait(10);
      await wait(chance() * 150);
      // Both at once, and everything they started: nobody says good night.
      process.kill(-(application.pid as number), 'SIGKILL');
      process.kill(-(cluster.process.pid as number), 'SIGKILL');
      await recording;
      await Promise.all(
        [application, cluster.process].map(
          (child) => child.exitCode ?? child.signalCode ?? new Promise((resolve) => child.once('exit', resolve)),
        ),
      );
    }
  }
  // At least one a round.
  expect(acknowledged.length).toBeGreaterThanOrEqual(KILLS);
  data.remove();
  rmSync(program);
}, 900_000);
