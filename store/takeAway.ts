import { sql } from 'kysely';
import type { Metric } from '../schemas/metrics';
import type { RecordedDriveEvent } from '../core/driveLife/event';
import type { RecordedEvent } from '../core/unit/event';
import type { Database, Work } from './database';

/** Rows in the order of their keys, a piece at a time: what is taken away is never in memory as a whole. */

export interface KeptEntry<E> {
  readonly seq: number;
  readonly happenedAt: string;
  readonly recordedAt: string;
  readonly recordedBy: string;
  readonly event: E;
}

export interface ReadingRow {
  readonly unit: string;
  readonly subject: string;
  readonly metric: Metric;
  readonly at: string;
  readonly value: number;
}

const ROWS = 5000;

export async function* allReadings(db: Database): AsyncGenerator<ReadingRow> {
  let after: ReadingRow | undefined;
  for (;;) {
    const rows = await db
      .selectFrom('reading')
      .selectAll()
      .$if(after !== undefined, (query) =>
        query.where(
          sql<boolean>`(unit, subject, metric, at) > (${after?.unit ?? ''}::uuid, ${after?.subject ?? ''}, ${after?.metric ?? ''}, ${after?.at ?? ''}::timestamptz)`,
        ),
      )
      .orderBy('unit')
      .orderBy('subject')
      .orderBy('metric')
      .orderBy('at')
      .limit(ROWS)
      .execute();
    for (const row of rows) {
      after = { ...row, metric: row.metric as Metric, at: row.at.toISOString() };
      yield after;
    }
    if (rows.length < ROWS) return;
  }
}

/** Writes entries as they were recorded, by whom and when. */
export async function keepEvents(work: Work, unit: string, entries: readonly KeptEntry<RecordedEvent['event']>[]): Promise<void> {
  for (let i = 0; i < entries.length; i += ROWS)
    await work
      .insertInto('event')
      .values(entries.slice(i, i + ROWS).map((entry) => ({ unit, ...row(entry) })))
      .execute();
}

export async function keepDriveEvents(work: Work, serial: string, entries: readonly KeptEntry<RecordedDriveEvent['event']>[]): Promise<void> {
  await work
    .insertInto('drive_event')
    .values(entries.map((entry) => ({ serial, ...row(entry) })))
    .execute();
}

function row<E extends { readonly kind: string }>({ seq, happenedAt, recordedAt, recordedBy, event: { kind, ...body } }: KeptEntry<E>) {
  return { seq, happened_at: happenedAt, recorded_at: recordedAt, recorded_by: recordedBy, kind, body: JSON.stringify(body) };
}

/** Where drives that stand in a unit's bays are, by their own ledgers, when that is not this unit. */
export async function strayDrives(work: Work, unit: string): Promise<string[]> {
  const rows = await work
    .selectFrom('drive_now')
    .leftJoin('drive_life', 'drive_life.serial', 'drive_now.serial')
    .select('drive_now.serial')
    .where('drive_now.unit', '=', unit)
    .where(sql<boolean>`coalesce(drive_life.life->'where'->>'unit', '') <> ${unit}`)
    .orderBy('drive_now.serial')
    .execute();
  return rows.map(({ serial }) => serial);
}

export async function paperIds(db: Database | Work): Promise<string[]> {
  return (await db.selectFrom('paper').select('id').orderBy('added_at').orderBy('id').execute()).map(({ id }) => id);
}

export async function orderIds(work: Work): Promise<Set<string>> {
  return new Set((await work.selectFrom('drive_order').select('id').execute()).map(({ id }) => id));
}
