import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { newDataFolder, startShelf } from '../e2e/startShelf';
import { runningCluster } from '../ops/cluster';
import { openSecrets } from '../ops/secrets';
import { isWorthKeeping, type LastKept } from '../core/observe/worthKeeping';
import { allUnits } from '../store/units';
import { addReadings, type Reading } from '../store/readings';
import { openApp } from '../service/app';
import { readTrends } from '../service/drives/readTrends';

/**
 * A year of readings every five minutes of two hundred units, rolled up by day: how long a drive's chart takes to be read
 * and answered, beside reading it off all that was measured; and how much of what is measured is kept. npm run bench:trends
 */
const [UNITS, DRIVES, DAYS, ROUNDS] = [200, 12, 365, 40];
const METRICS = ['temperature', 'reallocated-sectors', 'read-errors', 'power-on-hours'] as const;
const EVERY_MINUTES = 5;

const data = newDataFolder();
const shelf = await startShelf({ data: data.path, env: { SHELF_ENTRY_KEY: 'trend-key' } });
const secrets = openSecrets(data.path);
const databaseUrl = runningCluster(data.path, secrets)?.url('patient_shelf_app', 'patient_shelf_demo') ?? '';
const app = openApp({ databaseUrl, secret: secrets.sessions, baseUrl: shelf.base, root: process.cwd() });
const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? NaN;
const p95 = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN;
const took = async (work: () => Promise<unknown>): Promise<number> => {
  const from = performance.now();
  await work();
  return performance.now() - from;
};

try {
  const [coot] = (await allUnits(app.db)).filter(({ state }) => state.name === 'Coot');
  const [serial = ''] = Object.keys(coot?.state.drives ?? {});
  console.log(`Rolling up ${String(UNITS)} units × ${String(DRIVES)} drives × ${String(DAYS)} days …`);
  await sql`
    insert into reading_day (unit, subject, metric, day, low, high, last, last_at)
    select md5('unit ' || u)::uuid, 'BENCH-' || u || '-' || d, m, current_date - n, 30, 34, 31, now() - make_interval(days => n)
    from generate_series(1, ${UNITS}) u, generate_series(1, ${DRIVES}) d, unnest(${[...METRICS]}::text[]) m, generate_series(0, ${DAYS}) n
    on conflict do nothing`.execute(app.db);
  // One drive with all that was measured of it, as it would be without a roll-up.
  await sql`
    insert into reading (unit, subject, metric, at, value)
    select ${coot?.id ?? randomUUID()}::uuid, ${serial}::text, m, now() - make_interval(mins => n * ${EVERY_MINUTES}), 30 + (n % 7)
    from unnest(${[...METRICS]}::text[]) m, generate_series(1, ${(DAYS * 24 * 60) / EVERY_MINUTES}) n on conflict do nothing`.execute(
    app.db,
  );
  await sql`
    insert into reading_day
    select unit, subject, metric, (at at time zone 'UTC')::date, min(value), max(value), (array_agg(value order by at desc))[1], max(at)
    from reading where subject = ${serial} group by 1, 2, 3, 4 on conflict do nothing`.execute(app.db);
  await sql`analyze`.execute(app.db).catch(() => undefined);

  const headers = { authorization: 'Bearer trend-key' };
  const [rolled, answered, raw]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i < ROUNDS; i++) {
    rolled.push(await took(() => readTrends(app, serial, new Date())));
    answered.push(
      await took(() => fetch(`${shelf.base}/api/v1/drives/${serial}/trends`, { headers }).then((one) => one.text())),
    );
    if (i % 8 === 0)
      raw.push(
        await took(() =>
          sql`select metric, (at at time zone 'UTC')::date, min(value), max(value), (array_agg(value order by at desc))[1]
            from reading where subject = ${serial} group by 1, 2 order by 1, 2`.execute(app.db),
        ),
      );
  }
  console.log(
    `A drive's year: read ${median(rolled).toFixed(1)} ms (p95 ${p95(rolled).toFixed(1)}), answered ${median(answered).toFixed(1)} ms (p95 ${p95(answered).toFixed(1)}); off all that was measured ${median(raw).toFixed(0)} ms: ${(median(raw) / median(rolled)).toFixed(0)} times as long.`,
  );

  // What one unit says in a day, and what of it is kept.
  const unit = randomUUID();
  const last = new Map<string, LastKept>();
  const kept: Reading[] = [];
  let said = 0;
  const start = Date.UTC(2026, 0, 1);
  for (let minute = 0; minute < 24 * 60; minute += EVERY_MINUTES)
    for (let drive = 0; drive < DRIVES; drive++)
      for (const metric of METRICS) {
        const at = new Date(start + minute * 60_000).toISOString();
        const value =
          metric === 'temperature'
            ? Math.round(31 + 3 * Math.sin(minute / 230 + drive) + 0.6 * Math.sin(minute * (drive + 2)))
            : metric === 'power-on-hours'
              ? 20_000 + Math.floor(minute / 60)
              : 0;
        const key = `D${String(drive)} ${metric}`;
        said++;
        if (!isWorthKeeping(metric, value, last.get(key), at)) continue;
        last.set(key, { at, value });
        kept.push({ unit, subject: `D${String(drive)}`, metric, at, value });
      }
  const ms = await took(() => addReadings(app.db, kept));
  const rows = (kept.length * UNITS * DAYS) / 1e6;
  console.log(
    `A unit's day: ${String(said)} values said, ${String(kept.length)} kept (${((100 * kept.length) / said).toFixed(1)} %), written in ${ms.toFixed(0)} ms; ${String(UNITS)} units' year: ${rows.toFixed(1)} million rows instead of ${((said * UNITS * DAYS) / 1e6).toFixed(0)}.`,
  );
} finally {
  await app.db.destroy();
  await shelf.stop();
  data.remove();
}
