import type { Database, Work } from './database';

export interface Reading {
  readonly unit: string;
  readonly pool: string;
  readonly metric: 'used-bytes';
  readonly at: string;
  readonly value: number;
}

/** Adds readings; one that is there already, to the moment, is left as it was. */
export async function addReadings(db: Database | Work, readings: readonly Reading[]): Promise<void> {
  for (let i = 0; i < readings.length; i += 1000) {
    await db
      .insertInto('reading')
      .values(readings.slice(i, i + 1000))
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  }
}

/** The newest reading of every pool. */
export async function latestReadings(db: Database, metric: Reading['metric']): Promise<Reading[]> {
  const rows = await db
    .selectFrom('reading')
    .distinctOn(['unit', 'pool'])
    .selectAll()
    .where('metric', '=', metric)
    .orderBy('unit')
    .orderBy('pool')
    .orderBy('at', 'desc')
    .execute();
  return rows.map((row) => ({ ...row, metric, at: row.at.toISOString() }));
}
