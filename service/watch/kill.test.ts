import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { sql } from 'kysely';
import { oneFile } from '~/ops/oneFile.mjs';
import { unitLedger } from '../../core/world/ledger';
import { seeded } from '../../core/value/seeded';
import { entriesOf } from '../../store/acts';
import { openDatabase } from '../../store/database';
import { unitById } from '../../store/units';
import { postbox, type Postbox } from '../testing/postbox';
import { NAMES, playedDemo, type PlayedDemo } from '../testing/playedDemo';
import { BASE } from '../testing/testShelf';

const KILLS = 50;
const SEED = 20261130;
/** Units that can lose many drives before anything else is to be said of them. */
const UNITS = ['Plover', 'Coot', 'Bittern', 'Heron'];

let demo: PlayedDemo;
let box: Postbox;
let folder: string;
let program: string;
beforeAll(async () => {
  [demo, box] = await Promise.all([playedDemo(), postbox()]);
  folder = mkdtempSync(join(tmpdir(), 'letters-'));
  // Inside the checkout: it looks for its packages from there.
  program = join(process.cwd(), '.cache', `worker-${String(process.pid)}-test.mjs`);
  await oneFile(process.cwd(), join(process.cwd(), 'ops', 'worker.ts'), program);
});
afterAll(async () => {
  await box.close();
  await demo.close();
  rmSync(folder, { recursive: true, force: true });
  rmSync(program, { force: true });
});

function listen(): ChildProcess {
  return spawn(process.execPath, [program], {
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      SHELF_DATABASE_URL: demo.shelf.addresses.app,
      SHELF_SECRET: demo.shelf.secret,
      SHELF_BASE_URL: BASE,
      SHELF_LETTER_BOX: folder,
    },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
}

async function ended(child: ChildProcess, how: 'SIGKILL' | 'SIGTERM'): Promise<void> {
  const over = new Promise((resolve) => child.once('exit', resolve));
  child.kill(how);
  await over;
}

/** What one that died held is free again, and everything is due: as when the time has passed. */
async function timePasses(): Promise<void> {
  await sql`update watch set held_until = null, next_at = now()`.execute(demo.shelf.app.db);
  await sql`update tell_rule set held_until = null`.execute(demo.shelf.app.db);
}

const failuresIn = async (name: string): Promise<string[]> =>
  (await entriesOf(demo.shelf.app.db, unitLedger(demo.ids.get(name) ?? ''))).flatMap(({ event, recordedBy }) =>
    event.kind === 'drive-failed' && recordedBy === 'Watch' ? [String((event as { serial: string }).serial)] : [],
  );

it(`records every failure once and tells of it once, killed ${String(KILLS)} times (seed ${String(SEED)})`, async () => {
  const { shelf, watched, panel, playing } = demo;
  const chance = seeded(SEED);
  for (const name of UNITS) await watched(name);
  const { cookie } = await shelf.cookieOf('owner');
  const set = { host: '127.0.0.1', port: box.port, security: 'none', sender: 'shelf@marrowfen.example' };
  expect((await shelf.ask('PUT', '/mail-server', { cookie }, set)).status).toBe(200);
  expect((await shelf.ask('POST', '/tell-rules', { cookie }, { channel: 'mail', least: 'margin' })).status).toBe(201);

  const truthOf = (name: string) => (playing.units[NAMES.indexOf(name)] as (typeof playing.units)[number]).truth();
  const wellIn = (name: string): string[] =>
    Object.values(truthOf(name).unit.drives).flatMap(({ bay, condition }) =>
      bay !== null && condition === 'well' ? [bay] : [],
    );
  const failed = new Map<string, string[]>(UNITS.map((name) => [name, []]));
  for (let kill = 0; kill < KILLS; kill++) {
    // Every third time a drive fails; one of each unit stays well.
    const name = UNITS[kill % UNITS.length] as string;
    const well = wellIn(name);
    if (kill % 3 === 0 && well.length > 1) {
      const bay = well[Math.floor(chance() * well.length)] as string;
      const serial = Object.values(truthOf(name).unit.drives).find((drive) => drive.bay === bay)?.serial ?? '';
      await panel(name, { do: 'fail', bay });
      failed.get(name)?.push(serial);
    }
    await timePasses();
    const child = listen();
    await wait(250 + chance() * 900);
    await ended(child, 'SIGKILL');
  }

  await timePasses();
  const last = listen();
  const isAllThere = async (): Promise<boolean> => {
    for (const [name, serials] of failed) if ((await failuresIn(name)).length < serials.length) return false;
    const { rows } = await sql<{ n: string }>`
      select count(*) as n from cause where closed_at is null and severity = 'margin'
        and not exists (select from told where told.about = cause.id and told.changed_at = cause.changed_at)`.execute(
      shelf.app.db,
    );
    return rows[0]?.n === '0';
  };
  for (let i = 0; i < 300 && !(await isAllThere()); i++) {
    await timePasses();
    await wait(200);
  }
  await wait(2500);
  await ended(last, 'SIGTERM');

  let count = 0;
  for (const [name, serials] of failed) {
    expect([name, (await failuresIn(name)).sort()]).toEqual([name, [...serials].sort()]);
    const unit = await unitById(shelf.app.db, demo.ids.get(name) ?? '');
    for (const serial of serials) expect(unit?.state.drives[serial]?.condition).toBe('failed');
    count += serials.length;
  }
  expect(count).toBeGreaterThan(10);
  // A mail that was taken and not noted before the end is sent once more, as the same mail: nobody sees two.
  const seen = new Map(box.mails.map((mail) => [mail.messageId, mail]));
  const told = await sql<{ times: number }>`select times from told`.execute(shelf.app.db);
  expect([...seen.values()].length).toBeGreaterThan(0);
  const mentions = [...seen.values()].flatMap(({ text = '' }) => text.match(/^\S+ · .*$/gm) ?? []);
  expect(mentions.length).toBe(told.rows.reduce((sum, { times }) => sum + times, 0));
});

it('goes on when the database was away: nothing is lost, and it need not be started again', async () => {
  const { shelf, watched, panel } = demo;
  const name = 'Snipe';
  await watched(name);
  const child = listen();
  await wait(1500);
  const superuser = openDatabase(shelf.addresses.superuser.replace(/\/[^/]+$/, '/postgres'), 1);
  const database = new URL(shelf.addresses.app).pathname.slice(1);
  const allow = (isOpen: boolean): Promise<unknown> =>
    sql`alter database ${sql.id(database)} allow_connections ${sql.raw(String(isOpen))}`.execute(superuser);
  await allow(false);
  await sql`select pg_terminate_backend(pid) from pg_stat_activity where datname = ${database}`.execute(superuser);
  await panel(name, { do: 'fail', bay: '1' });
  await wait(3000);
  await allow(true);
  await superuser.destroy();
  expect(child.exitCode).toBeNull();
  for (let i = 0; i < 100 && (await failuresIn(name)).length === 0; i++) {
    await timePasses();
    await wait(200);
  }
  expect(await failuresIn(name)).toHaveLength(1);
  expect([child.exitCode, child.signalCode]).toEqual([null, null]);
  await ended(child, 'SIGTERM');
});
