import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { sql } from 'kysely';
import { serialKey } from '../core/drive/serial';
import { unitLedger } from '../core/world/ledger';
import { isRefusal } from '../core/value/refusal';
import { newDataFolder, startShelf } from '../e2e/startShelf';
import { runningCluster } from '../ops/cluster';
import { freePort } from '../ops/freePort';
import { openSecrets } from '../ops/secrets';
import { openApp } from '../service/app';
import { recordAct } from '../service/ledgers/recordAct';
import { openDatabase } from '../store/database';
import { saveWatch } from '../store/watches';
import { DEMO_UNITS, unitOfDemo } from '../standin/units';
import { putUpAs } from '../demo/putUpAs';

/**
 * Two hundred units asked every half minute by two processes: what that costs, whether any is asked twice or left out, and
 * what others notice at the Shelf, in turns without and with. npm run bench:watch
 */
const [UNITS, EVERY_SECONDS, SECONDS, LOOKS] = [200, 30, 90, 80];
const PASSWORD = 'of the bench';

const data = newDataFolder();
const shelf = await startShelf({ data: data.path, env: { SHELF_ENTRY_KEY: 'watch-key' } });
const secrets = openSecrets(data.path);
const databaseUrl = runningCluster(data.path, secrets)?.url('patient_shelf_app', 'patient_shelf_demo') ?? '';
const settings = { databaseUrl, secret: secrets.sessions, baseUrl: shelf.base };
const app = openApp({ ...settings, root: process.cwd() });
const db = openDatabase(databaseUrl, 2);
const children: ChildProcess[] = [];
const begin = (args: string[], env: Record<string, string> = {}): ChildProcess => {
  const child = spawn(process.execPath, ['ops/run.mjs', ...args], {
    env: { ...process.env, NODE_OPTIONS: '', ...env },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  children.push(child);
  return child;
};
const cookie = await fetch(`${shelf.base}/api/auth/entry`, {
  method: 'POST',
  headers: { 'content-type': 'application/json', origin: shelf.base },
  body: JSON.stringify({ key: 'watch-key' }),
}).then((entered) => (entered.headers.get('set-cookie') ?? '').split(';')[0] ?? '');

async function p95(): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < LOOKS; i++) {
    const from = performance.now();
    const page = await fetch(shelf.base, { headers: { cookie } });
    await page.text();
    times.push(performance.now() - from);
    await wait(SECONDS * (1000 / LOOKS) * 0.6);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;
}

/** Seconds of processor a process has used, as Linux counts them. */
function cpuOf(pid: number): number {
  const [, rest = ''] = readFileSync(`/proc/${String(pid)}/stat`, 'utf8').split(') ');
  const fields = rest.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}

/** Processes that listen: those whose command line says so. */
async function listeners(): Promise<number[]> {
  const { readdirSync } = await import('node:fs');
  return readdirSync('/proc').flatMap((pid) => {
    try {
      return /run\.mjs\0worker/.test(readFileSync(join('/proc', pid, 'cmdline'), 'utf8')) ? [Number(pid)] : [];
    } catch {
      return [];
    }
  });
}

try {
  console.log(`Registering ${String(UNITS)} units …`);
  const ids: string[] = [];
  const at = (daysAgo: number): string => new Date(Date.now() - daysAgo * 86_400_000).toISOString();
  for (let i = 0; i < UNITS; i++) {
    const unit = unitOfDemo(i + DEMO_UNITS);
    const profile = app.profiles.get(unit.profile);
    if (!profile) throw new Error(unit.profile);
    const [id, pool] = [randomUUID(), randomUUID()];
    const events = putUpAs(profile, unit, at, pool).events.map((event) =>
      event.kind === 'drive-inserted'
        ? { ...event, drive: { ...event.drive, serial: serialKey(event.drive.serial) } }
        : event,
    );
    const done = await recordAct(app.db, {
      kind: 'act',
      id: randomUUID(),
      by: { kind: 'import', id: null, name: 'Bench' },
      happenedAt: at(unit.daysAgo),
      expects: [],
      entries: events.map((event) => ({ ledger: unitLedger(id), event })),
    });
    if (isRefusal(done)) throw new Error(done.sentence);
    ids.push(id);
  }
  const port = await freePort();
  const units = begin(['standin', '--port', String(port), '--units', String(UNITS + DEMO_UNITS), '--http'], {
    SHELF_STANDIN_PASSWORD: PASSWORD,
  });
  await new Promise((resolve) => units.once('message', resolve));
  await p95();
  const without = await p95();
  for (const [i, id] of ids.entries()) {
    const address = `http://127.0.0.1:${String(port)}/unit-${String(i + 1 + DEMO_UNITS)}`;
    await saveWatch(db, {
      unit: id,
      address,
      userName: 'keeper',
      secret: app.seal.close(PASSWORD, `${id} ${address}`),
      fingerprint: null,
      everySeconds: EVERY_SECONDS,
      isOn: true,
      setBy: 'Bench',
    });
  }
  begin(['worker'], {
    SHELF_DATABASE_URL: settings.databaseUrl,
    SHELF_SECRET: settings.secret,
    SHELF_BASE_URL: settings.baseUrl,
    NODE_ENV: 'production',
  });
  // Two processes, and every unit heard once.
  for (let heard = 0; heard < UNITS;) {
    await wait(1000);
    const { rows } = await sql<{ n: string }>`select count(*) as n from watch where heard_at is not null`.execute(db);
    heard = Number(rows[0]?.n);
  }
  const who = await listeners();
  const before = who.map(cpuOf);
  const began = Date.now();
  const asked = new Map<string, Set<string>>(ids.map((id) => [id, new Set()]));
  let counting = true;
  const count = (async () => {
    while (counting) {
      const { rows } = await sql<{ unit: string; at: Date }>`select unit, asked_at as at from watch`.execute(db);
      for (const row of rows) asked.get(row.unit)?.add(row.at.toISOString());
      await wait(500);
    }
  })();
  const under = await p95();
  await wait(Math.max(0, SECONDS * 1000 - (Date.now() - began)));
  counting = false;
  await count;
  const seconds = (Date.now() - began) / 1000;
  const cpu = who.map((pid, i) => cpuOf(pid) - (before[i] as number)).reduce((a, b) => a + b, 0);
  const times = [...asked.values()].map(({ size }) => size - 1);
  const { rows } = await sql<{ late: string; troubled: string }>`
    select count(*) filter (where heard_at < now() - make_interval(secs => ${EVERY_SECONDS + 10})) as late,
      count(*) filter (where trouble is not null) as troubled from watch`.execute(db);
  console.log(
    `${String(UNITS)} units every ${String(EVERY_SECONDS)} s, ${String(who.length)} processes, ${seconds.toFixed(0)} s:`,
  );
  console.log(
    `  asked ${String(Math.min(...times))} to ${String(Math.max(...times))} times each (${(seconds / EVERY_SECONDS).toFixed(1)} to ${(seconds / EVERY_SECONDS / 0.9).toFixed(1)} are due)`,
  );
  console.log(`  late ${rows[0]?.late ?? ''}, in trouble ${rows[0]?.troubled ?? ''}`);
  console.log(`  both together use ${((100 * cpu) / seconds).toFixed(0)} % of a core`);
  console.log(
    `  the Shelf's 95th percentile: ${without.toFixed(0)} ms without, ${under.toFixed(0)} ms with: ${(under / without).toFixed(2)} times`,
  );
} finally {
  for (const child of children) child.kill('SIGTERM');
  await db.destroy();
  await app.threads.end();
  await app.db.destroy();
  await shelf.stop();
  data.remove();
}
process.exit(0);
