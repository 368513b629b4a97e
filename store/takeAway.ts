import { sql } from 'kysely';
import type { Metric } from '../schemas/metrics';
import type { Database, Transaction } from './database';

/** Rows in the order of their keys, a piece at a time: what is taken away is never in memory as a whole. */

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

export async function paperIds(db: Database): Promise<string[]> {
  return (await db.selectFrom('paper').select('id').orderBy('added_at').orderBy('id').execute()).map(({ id }) => id);
}

export async function orderIds(tx: Transaction): Promise<Set<string>> {
  return new Set((await tx.selectFrom('drive_order').select('id').execute()).map(({ id }) => id));
}
