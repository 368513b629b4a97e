import { sql } from 'kysely';
import type { Database } from './database';

/** The one clock of everybody who records here: the database's, whatever the machines around it believe. */
export interface Clock {
  readonly now: () => Promise<Date>;
}

/** So long it is carried on by the machine's own steady counter before the database is asked again. */
const CARRIED_ON_MS = 20_000;
/** The machine's clock was set, or it slept, when its two counters part by more. */
const PARTED_MS = 500;

export function clockOf(db: Database): Clock {
  let asked: { readonly at: number; readonly steady: number; readonly wall: number } | undefined;
  return {
    now: async () => {
      const past = asked ? performance.now() - asked.steady : Infinity;
      if (asked && past < CARRIED_ON_MS && Math.abs(Date.now() - asked.wall - past) < PARTED_MS)
        return new Date(asked.at + past);
      const { rows } = await sql<{ now: Date }>`select clock_timestamp() as now`.execute(db);
      const at = (rows[0] as { now: Date }).now.getTime();
      asked = { at, steady: performance.now(), wall: Date.now() };
      return new Date(at);
    },
  };
}
