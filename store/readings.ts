import type { LifePoint } from '../core/drive/wearOut';
import { sql } from 'kysely';
import type { Database, Transaction } from './database';

import { ERROR_METRICS, type ErrorMetric, type GrowingCount } from '../core/upkeep/need';
import type { Metric } from '../schemas/metrics';

export type { Metric };

/** A measured value of a pool (by its id) or of a drive (by its serial). */
export interface Reading {
  readonly unit: string;
  readonly subject: string;
  readonly metric: Metric;
  readonly at: string;
  readonly value: number;
}

/** A day of readings: lowest, highest, last. */
export interface ReadingDay {
  readonly day: string;
  readonly low: number;
  readonly high: number;
  readonly last: number;
}

/** Rows to a statement: well below the most parameters PostgreSQL takes. */
const ROWS = 2000;

/**
 * Adds readings with their rollups; one that is there already, to the moment, is left as it was.
 *
 * @returns how many were new
 */
export async function addReadings(db: Database, readings: readonly Reading[]): Promise<number> {
  let added = 0;
  for (let i = 0; i < readings.length; i += ROWS) {
    const part = readings.slice(i, i + ROWS);
    const columns = {
      unit: part.map(({ unit }) => unit),
      subject: part.map(({ subject }) => subject),
      metric: part.map(({ metric }) => metric),
      at: part.map(({ at }) => at),
      value: part.map(({ value }) => value),
    };
    const { rows } = await sql<{ n: string }>`
      with fresh as (
        insert into reading (unit, subject, metric, at, value)
        select * from unnest(${columns.unit}::uuid[], ${columns.subject}::text[], ${columns.metric}::text[], ${columns.at}::timestamptz[], ${columns.value}::float8[])
        on conflict do nothing
        returning unit, subject, metric, at, value
      ), newest as (
        insert into reading_now (unit, subject, metric, at, value)
        select distinct on (unit, subject, metric) unit, subject, metric, at, value from fresh order by unit, subject, metric, at desc
        on conflict (unit, subject, metric) do update set at = excluded.at, value = excluded.value where excluded.at > reading_now.at
      ), days as (
        insert into reading_day (unit, subject, metric, day, low, high, last, last_at)
        select unit, subject, metric, (at at time zone 'UTC')::date, min(value), max(value), (array_agg(value order by at desc))[1], max(at)
        from fresh group by 1, 2, 3, 4
        on conflict (unit, subject, metric, day) do update set
          low = least(reading_day.low, excluded.low),
          high = greatest(reading_day.high, excluded.high),
          last = case when excluded.last_at > reading_day.last_at then excluded.last else reading_day.last end,
          last_at = greatest(reading_day.last_at, excluded.last_at)
      )
      select count(*) as n from fresh`.execute(db);
    added += Number(rows[0]?.n ?? 0);
  }
  return added;
}

/** Which of some readings, by their place, is kept already with another value; `null` where none is. */
export async function keptOtherwise(db: Database, readings: readonly Reading[]): Promise<number | null> {
  for (let i = 0; i < readings.length; i += ROWS) {
    const part = readings.slice(i, i + ROWS);
    const { rows } = await sql<{ place: string }>`
      select place from unnest(${part.map(({ unit }) => unit)}::uuid[], ${part.map(({ subject }) => subject)}::text[],
        ${part.map(({ metric }) => metric)}::text[], ${part.map(({ at }) => at)}::timestamptz[],
        ${part.map(({ value }) => value)}::float8[]) with ordinality as given (unit, subject, metric, at, value, place)
      join reading using (unit, subject, metric, at)
      where reading.value <> given.value order by place limit 1`.execute(db);
    if (rows[0]) return i + Number(rows[0].place) - 1;
  }
  return null;
}

/** Bytes used by pool, as last read. */
export async function usedOf(db: Database, pools: readonly string[]): Promise<Record<string, number>> {
  return Object.fromEntries((await fillOf(db, pools)).map(({ subject, value }) => [subject, value]));
}

/** The newest fill of some pools, wherever each stood when it was read: readings follow the pool. */
export async function fillOf(db: Database, pools: readonly string[]): Promise<Reading[]> {
  if (pools.length === 0) return [];
  const rows = await db
    .selectFrom('reading_now')
    .selectAll()
    .distinctOn('subject')
    .where('metric', '=', 'used-bytes')
    .where('subject', 'in', pools)
    .orderBy('subject')
    .orderBy('at', 'desc')
    .execute();
  return rows.map((row) => ({ ...row, metric: 'used-bytes' as const, at: row.at.toISOString() }));
}

/** What was kept last of everything that is measured at a unit, by subject and metric. */
export async function lastKept(
  db: Database,
  unit: string,
): Promise<Map<string, { readonly at: string; readonly value: number }>> {
  const rows = await db.selectFrom('reading_now').selectAll().where('unit', '=', unit).execute();
  return new Map(
    rows.map(({ subject, metric, at, value }) => [`${subject} ${metric}`, { at: at.toISOString(), value }]),
  );
}

/** The first day anything was measured of some subjects. */
export async function firstReading(db: Database, subjects: readonly string[]): Promise<string | null> {
  const { rows } = await sql<{ first: string | null }>`
    select min(day)::text as first from reading_day where subject = any(${[...subjects]})`.execute(db);
  return rows[0]?.first ?? null;
}

/** What is measured of some subjects over all their years, in stretches of so many days, oldest first. */
export async function readingTrends(
  db: Database,
  subjects: readonly string[],
  stretch: number,
): Promise<readonly (ReadingDay & { readonly subject: string; readonly metric: Metric })[]> {
  if (subjects.length === 0) return [];
  const { rows } = await sql<ReadingDay & { subject: string; metric: Metric }>`
    select subject, metric, min(day)::text as day, min(low) as low, max(high) as high,
      (array_agg(last order by last_at desc))[1] as last
    from reading_day where subject = any(${[...subjects]})
    group by subject, metric, (day - date '2000-01-03') / ${stretch}::int order by 1, 2, 3`.execute(db);
  return rows;
}

/** Error counts of a unit's drives that are higher than a week before their newest reading. */
export async function growingCounts(tx: Transaction, unit: string): Promise<GrowingCount[]> {
  const { rows } = await sql<{ serial: string; metric: ErrorMetric; before: number; day: string; now: number }>`
    select n.subject as serial, n.metric, b.last as before, b.day::text as day, n.value as now
    from reading_now n
    join lateral (
      select last, day from reading_day d
      where d.unit = n.unit and d.subject = n.subject and d.metric = n.metric and d.day <= (n.at at time zone 'UTC')::date - 7
      order by day desc limit 1
    ) b on true
    where n.unit = ${unit} and n.metric in (${sql.join(ERROR_METRICS)}) and n.value > b.last
    order by n.subject, n.metric`.execute(tx);
  return rows.map(({ serial, metric, before, day, now }) => ({ serial, metric, before, beforeDay: day, now }));
}

/** What drives said of their rated life, by serial, in order of days: the first and the last day of each figure. */
export async function lifeLeft(db: Database, serials: readonly string[]): Promise<Record<string, LifePoint[]>> {
  if (serials.length === 0) return {};
  const { rows } = await sql<{ subject: string; day: string; left: number }>`
    select subject, day::text as day, last as left from (
      select subject, day, last, lag(last) over days as before, lead(last) over days as after
      from reading_day where metric = 'life-left' and subject = any(${[...serials]})
      window days as (partition by subject order by day, last_at)
    ) told where before is distinct from last or after is distinct from last order by subject, day`.execute(db);
  const life: Record<string, LifePoint[]> = {};
  for (const { subject, day, left } of rows) (life[subject] ??= []).push({ day, left });
  return life;
}

/** The days of one subject's readings by metric, oldest first, no more than the last so many. */
export async function readingDays(
  db: Database,
  subject: string,
  most: number,
): Promise<Readonly<Partial<Record<Metric, ReadingDay[]>>>> {
  const rows = await db
    .selectFrom((from) =>
      from
        .selectFrom('reading_day')
        .select((of) => [
          'metric',
          sql<string>`day::text`.as('day'),
          'low',
          'high',
          'last',
          of.fn
            .agg<string>('row_number')
            .over((over) => over.partitionBy('metric').orderBy('day', 'desc'))
            .as('n'),
        ])
        .where('subject', '=', subject)
        .as('ranked'),
    )
    .selectAll()
    .where('n', '<=', String(most) as never)
    .orderBy('day')
    .execute();
  const days: Partial<Record<Metric, ReadingDay[]>> = {};
  for (const { metric, day, low, high, last } of rows) (days[metric as Metric] ??= []).push({ day, low, high, last });
  return days;
}

/** Forgets what is computed of readings and makes it again from them alone. */
export async function rebuildReadings(tx: Transaction): Promise<void> {
  await tx.deleteFrom('reading_now').execute();
  await tx.deleteFrom('reading_day').execute();
  await sql`
    insert into reading_now
    select distinct on (unit, subject, metric) unit, subject, metric, at, value from reading order by unit, subject, metric, at desc`.execute(
    tx,
  );
  await sql`
    insert into reading_day
    select unit, subject, metric, (at at time zone 'UTC')::date, min(value), max(value), (array_agg(value order by at desc))[1], max(at)
    from reading group by 1, 2, 3, 4`.execute(tx);
}
