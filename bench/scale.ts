/**
 * How a large shelf answers: 500 units, 6,000 drives, 200,000 entries and 5 million readings, asked by 20 clients at
 * once, each question beside the bare SQL it rests on.
 *
 * Run: npm run bench:scale [-- --small]
 */
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { labelBytes } from '../core/drive/labelBytes';
import { planLayout } from '../core/layout/planLayout';
import type { UnitEvent } from '../core/unit/event';
import { enclosuresOf } from '../core/unit/enclosures';
import { poolCreated } from '../core/unit/poolCreated';
import type { Written } from '../core/world/act';
import { usualUpkeep } from '../core/upkeep/upkeepOf';
import { isRefusal } from '../core/value/refusal';
import { startApplication } from '../ops/application';
import { buildIfChanged } from '../ops/build';
import { startCluster } from '../ops/cluster';
import { databaseInCluster, migrate } from '../ops/databases';
import { freePort } from '../ops/freePort';
import { reachAsked } from '../ops/reach';
import { openSecrets } from '../ops/secrets';
import { openApp } from '../service/app';
import { hashOfKey } from '../service/access/oneTimeKey';
import { find } from '../service/drives/driveOperations';
import { readDrive } from '../service/drives/readDrives';
import { readShelf } from '../service/units/readShelf';
import { readLedger } from '../service/units/readLedger';
import { readUnit } from '../service/units/readUnit';
import { rebuildProjections } from '../service/ledgers/rebuild';
import { insertToken } from '../store/tokens';
import { insertAct } from '../store/acts';

const isSmall = process.argv.includes('--small');
const UNITS = isSmall ? 50 : 500;
const BAYS = 12;
const EVENTS = isSmall ? 20_000 : 200_000;
const READINGS = isSmall ? 500_000 : 5_000_000;
const CLIENTS = 20;
const ASKED = isSmall ? 200 : 1000;
/** A person does not ask again in the same moment: clients pause this long between questions. */
const PAUSES_MS = [0, 1000] as const;

const START = Date.parse('2022-01-01T00:00:00Z');
const YEAR_MS = 365 * 24 * 3600e3;
const iso = (ms: number): string => new Date(ms).toISOString();
const BYTES = labelBytes(8000);

const folder = mkdtempSync(join(tmpdir(), 'shelf-scale-'));
chmodSync(folder, 0o711);
mkdirSync(join(folder, 'log'));
const secrets = openSecrets(folder);
const cluster = await startCluster(folder, secrets);
const ended: (() => Promise<void>)[] = [() => cluster.stop()];
try {
  await buildIfChanged();
  const addresses = await databaseInCluster(cluster, 'scale');
  await migrate(addresses);
  const port = await freePort();
  const base = `http://127.0.0.1:${String(port)}`;
  const settings = { databaseUrl: addresses.app, secret: secrets.sessions, baseUrl: base };
  const app = openApp({ ...settings, root: process.cwd() });
  ended.push(() => app.db.destroy());
  const profile = app.profiles.get('reedbank');
  if (!profile) throw new Error('no profile');
  const owner = new pg.Client({ connectionString: addresses.owner });
  await owner.connect();
  ended.push(() => owner.end());

  console.log(`Making ${String(UNITS)} units, ${String(UNITS * BAYS)} drives, ${String(EVENTS)} entries …`);
  const units: string[] = [];
  for (let u = 0; u < UNITS; u++) {
    const id = randomUUID();
    units.push(id);
    const serials = Array.from(
      { length: BAYS },
      (_, i) => `QH8-${String(u).padStart(4, '0')}-${String(i + 1).padStart(2, '0')}`,
    );
    const planned = serials.map((_, i) => ({ bay: String(i + 1), bytes: BYTES }));
    const pool = poolCreated(
      planLayout(profile, 'parity-2', planned),
      id,
      'Pool 1',
      new Map(serials.map((serial, i) => [String(i + 1), serial])),
    );
    if (isRefusal(pool)) throw new Error(pool.sentence);
    const events: UnitEvent[] = [
      {
        kind: 'unit-registered',
        name: `Unit ${String(u).padStart(3, '0')}`,
        place: { site: `Site ${String(u % 25)}`, room: `Room ${String(u % 3)}` },
        profile,
        enclosures: enclosuresOf(profile, BAYS, []),
      },
      usualUpkeep(profile, '2022-01-01'),
      ...serials.map((serial, i): UnitEvent => ({
        kind: 'drive-inserted',
        bay: String(i + 1),
        drive: { serial, bytes: BYTES, basis: 'exact', model: 'Quernholt Q8C', lot: `0${String(u % 40)}` },
      })),
      pool,
    ];
    const rest = Math.floor(EVENTS / UNITS) - events.length;
    for (let i = 0; i < rest; i++) {
      const serial = serials[i % BAYS] ?? '';
      events.push(
        i % 40 === 7
          ? { kind: 'drive-suspected', serial, note: 'read errors' }
          : i % 40 === 9
            ? { kind: 'drive-cleared', serial: serials[(i - 2) % BAYS] ?? '' }
            : i % 5 === 0
              ? { kind: 'round-walked', seen: BAYS, signs: [] }
              : { kind: 'noted', note: `looked at, nothing new, ${String(i)}` },
      );
    }
    const by = { kind: 'import' as const, id: null, name: 'scale' };
    const written = events.map((event, i): Written => ({ kind: 'unit', id, seq: i + 1, event }));
    const fitted = serials.map((serial, i): Written => ({
      kind: 'drive',
      id: serial,
      seq: 1,
      event: {
        kind: 'fitted',
        unit: id,
        unitName: `Unit ${String(u)}`,
        bay: String(i + 1),
        drive: { bytes: BYTES, basis: 'exact', lot: `0${String(u % 40)}` },
      },
    }));
    // Put up by one act, and one for everything that came after.
    const putUp = BAYS + 3;
    await app.db.transaction().execute(async (work) => {
      const write = async (entries: Written[], happenedAt: string): Promise<void> =>
        insertAct(work, { act: { id: randomUUID(), by, happenedAt }, written: entries }, { recordedAt: happenedAt });
      await write([...written.slice(0, putUp), ...fitted], iso(START));
      for (const [i, one] of written.slice(putUp).entries())
        await write([one], iso(START + ((i + 1) / events.length) * 4 * YEAR_MS));
    });
  }
  console.log(`Making ${String(READINGS)} readings …`);
  const perUnit = Math.floor(READINGS / UNITS);
  const used = Math.floor(perUnit / 5);
  const perDrive = Math.floor((perUnit - used) / BAYS);
  // Written by the database itself: the making is not what is measured.
  for (const [subject, metric, count, value] of [
    ['u.unit::text', 'used-bytes', used, `8e12 * (1 + n::float8 / ${String(used)}) * 4`],
    ['serial', 'temperature', perDrive, '30 + n % 12'],
  ] as const)
    await owner.query(
      `insert into reading (unit, subject, metric, at, value)
       select u.unit, ${subject}, '${metric}', timestamptz '2022-01-01' + n * interval '4 years' / ${String(count)}, ${value}
       from (select distinct subject::uuid as unit${subject === 'serial' ? ", body->'drive'->>'serial' as serial" : ''} from entry where ledger = 'unit' ${subject === 'serial' ? "and kind = 'drive-inserted'" : ''}) u, generate_series(1, ${String(count)}) n`,
    );
  console.log('Making the projections …');
  const began = Date.now();
  await rebuildProjections(app.db);
  console.log(`All projections from the ledgers: ${((Date.now() - began) / 1000).toFixed(0)} s`);
  await owner.query('vacuum analyze');
  const counts = await owner.query<{ events: string; readings: string; drives: string; size: string }>(
    `select (select count(*) from entry) as events, (select count(*) from reading) as readings, (select count(*) from drive_life) as drives, pg_size_pretty(pg_database_size(current_database())) as size`,
  );
  console.log(counts.rows[0]);

  const token = randomUUID();
  const { internalAdapter } = await app.auth.$context;
  const person = await internalAdapter.createUser(
    { name: 'Asker', email: 'a@example.org', emailVerified: false, role: 'owner' },
    { method: 'admin' },
  );
  await insertToken(app.db, {
    id: randomUUID(),
    userId: person.id,
    name: 'bench',
    hash: hashOfKey(token),
    scopes: ['read', 'write'],
  });
  const context = await app.auth.$context;
  const password = randomUUID();
  await internalAdapter.linkAccount({
    userId: person.id,
    providerId: 'credential',
    accountId: person.id,
    password: await context.password.hash(password),
  });
  const signedIn = await app.auth.api.signInEmail({ body: { email: 'a@example.org', password }, asResponse: true });
  const cookie = (signedIn.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  const application = await startApplication(folder, reachAsked({ port }, new Date()), settings);
  ended.push(() => application.stop());

  const pick = <T>(of: readonly T[], i: number): T => of[(i * 7919) % of.length] as T;
  const serialAt = (i: number): string =>
    `QH8-${String((i * 7919) % UNITS).padStart(4, '0')}-${String((i % BAYS) + 1).padStart(2, '0')}`;
  const pool = new pg.Pool({ connectionString: addresses.app, max: 10 });
  ended.push(() => pool.end());
  const questions: readonly {
    readonly name: string;
    readonly path: (i: number) => string;
    readonly read: (i: number) => Promise<unknown>;
    readonly sql: (i: number) => Promise<unknown>;
  }[] = [
    {
      name: 'Shelf',
      path: (i) => (i % 2 === 0 ? '/' : `/?site=${encodeURIComponent(`Site ${String(i % 25)}`)}`),
      read: (i) => readShelf(app, new Date(), i % 2 === 0 ? undefined : `Site ${String(i % 25)}`, 0, 40, 12),
      sql: async (i) => {
        const site = i % 2 === 0 ? '' : `where site = 'Site ${String(i % 25)}'`;
        const { rows } = await pool.query<{ unit: string }>(
          `select unit, version, card from unit_now ${site} order by site, room, name limit 40`,
        );
        await pool.query(`select * from reading_now where metric = 'used-bytes' and unit = any($1)`, [
          rows.map(({ unit }) => unit),
        ]);
        await pool.query(
          `select shown from need_now where shown is not null and from_at <= now() and (until_at is null or until_at > now()) order by urgency, shown->>'title' limit 12`,
        );
        await pool.query(
          `select count(*) from need_now where shown is not null and from_at <= now() and (until_at is null or until_at > now())`,
        );
        await pool.query('select * from message order by made_at desc limit 4');
        return pool.query('select site, count(*) from unit_now group by site');
      },
    },
    {
      name: 'unit page',
      path: (i) => `/units/${pick(units, i)}`,
      read: async (i) => {
        const unit = await readUnit(app, pick(units, i), new Date());
        return { unit, ledger: unit && (await readLedger(app, unit, { from: 0, most: 40 })) };
      },
      sql: async (i) => {
        const unit = pick(units, i);
        await pool.query('select * from unit_now where unit = $1', [unit]);
        await pool.query(
          `select * from entry where ledger = 'unit' and subject = $1 order by happened_at desc, seq desc limit 41`,
          [unit],
        );
        await pool.query(
          `select body->>'act' from entry where ledger = 'unit' and subject = $1 and kind = 'taken-back'`,
          [unit],
        );
        await pool.query('select * from need_now where unit = $1', [unit]);
        return pool.query(
          `select day, last from reading_day where subject = $1::text and metric = 'used-bytes' order by day desc limit 800`,
          [unit],
        );
      },
    },
    {
      name: 'drive page',
      path: (i) => `/drives/${serialAt(i)}`,
      read: (i) => readDrive(app, serialAt(i)),
      sql: async (i) => {
        const serial = serialAt(i);
        const { rows } = await pool.query<{ life: { where: { unit: string } } }>(
          'select * from drive_life where serial = $1',
          [serial],
        );
        await pool.query(`select * from entry where ledger = 'drive' and subject = $1`, [serial]);
        await pool.query(
          `select * from entry where ledger = 'unit' and subject = $2 and $1 in (body->>'serial', body->'drive'->>'serial') order by happened_at desc limit 200`,
          [serial, rows[0]?.life.where.unit],
        );
        await pool.query('select * from unit_now where unit = $1', [rows[0]?.life.where.unit]);
        return pool.query('select * from reading_day where subject = $1 order by day desc limit 800', [serial]);
      },
    },
    {
      name: 'find by serial',
      path: (i) => `/api/v1/find?q=${serialAt(i).slice(-7)}`,
      read: (i) => find(app, serialAt(i).slice(-7)),
      sql: (i) =>
        pool.query(
          'select serial, life from drive_life where serial ilike $1 or model ilike $1 order by serial limit 12',
          [`%${serialAt(i).slice(-7)}%`],
        ),
    },
  ];

  const ninetyFifth = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;
  const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? NaN;
  const asked = async (
    count: number,
    clients: number,
    pauseMs: number,
    ask: (i: number) => Promise<void>,
  ): Promise<number[]> => {
    const times: number[] = [];
    let next = 0;
    await Promise.all(
      Array.from({ length: clients }, async (_, client) => {
        await new Promise((resolve) => setTimeout(resolve, (client / clients) * pauseMs));
        while (next < count) {
          const i = next++;
          const from = performance.now();
          await ask(i);
          times.push(performance.now() - from);
          if (pauseMs > 0) await new Promise((resolve) => setTimeout(resolve, pauseMs));
        }
      }),
    );
    return times;
  };
  const get = async (path: string): Promise<void> => {
    const response = await fetch(base + path, {
      headers: path.startsWith('/api') ? { authorization: `Bearer ${token}` } : { cookie },
      redirect: 'manual',
    });
    await response.arrayBuffer();
    if (response.status !== 200) throw new Error(`${path}: ${String(response.status)}`);
  };
  for (const { path } of questions) for (let i = 0; i < 30; i++) await get(path(i));

  console.log('\n                    alone, median ms, share of drawing            20 clients, 95th percentile ms');
  console.log(
    '                    page   answer   SQL   drawing  ratio      page at once   answer at once   SQL at once   page, a second between',
  );
  for (const { name, path, read, sql } of questions) {
    const alone = median(await asked(100, 1, 0, (i) => get(path(i))));
    const answer = median(await asked(100, 1, 0, async (i) => void (await read(i))));
    const bare = median(await asked(100, 1, 0, async (i) => void (await sql(i))));
    const [atOnce, paced] = await PAUSES_MS.reduce<Promise<number[]>>(
      async (before, pause) => [
        ...(await before),
        ninetyFifth(await asked(pause === 0 ? ASKED : ASKED / 2, CLIENTS, pause, (i) => get(path(i)))),
      ],
      Promise.resolve([]),
    );
    const answerAtOnce = ninetyFifth(await asked(ASKED, CLIENTS, 0, async (i) => void (await read(i))));
    const bareAtOnce = ninetyFifth(await asked(ASKED, CLIENTS, 0, async (i) => void (await sql(i))));
    const figure = (value: number | undefined, width: number): string =>
      (value ?? NaN).toFixed(value !== undefined && value < 10 ? 1 : 0).padStart(width);
    console.log(
      `${name.padEnd(18)}${figure(alone, 6)}${figure(answer, 8)}${figure(bare, 6)}${`${((1 - answer / alone) * 100).toFixed(0)} %`.padStart(10)}${(answer / bare).toFixed(1).padStart(8)}${figure(atOnce, 18)}${figure(answerAtOnce, 17)}${figure(bareAtOnce, 14)}${figure(paced, 24)}`,
    );
  }
} finally {
  for (const end of ended.reverse()) await end();
  rmSync(folder, { recursive: true, force: true });
}
