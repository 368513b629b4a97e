import { sql, type Kysely } from 'kysely';

/** Of a drive of flash, the share of its rated life that is left. */
const STATEMENTS = [
  `alter table reading drop constraint reading_metric_check`,
  `alter table reading add constraint reading_metric_check check (metric in
      ('used-bytes', 'temperature', 'reallocated-sectors', 'pending-sectors', 'read-errors', 'power-on-hours', 'written-bytes',
       'life-left'))`,
  // Of all drives of a unit it is asked for with every act: of years of readings only these.
  `create index reading_day_life on reading_day (subject, day) where metric = 'life-left'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
