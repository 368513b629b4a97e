import { sql } from 'kysely';
import type { Database } from './database';

/** The shelf in figures, for whoever watches the server it runs on: no name, no address. Moments in seconds since 1970, `null` where there is none. */
export interface Figures {
  readonly units: number;
  readonly needs: number;
  readonly jobs: number;
  readonly letters: number;
  readonly rulesFailing: number;
  readonly signInFailures: number;
  readonly beatAt: number | null;
  readonly backupAt: number | null;
  readonly backupBytes: number | null;
}

export async function figures(db: Database): Promise<Figures> {
  const { rows } = await sql<Record<keyof Figures, string | null>>`
    select (select count(*) from unit_now where not state ? 'retired') as units,
      (select count(*) from need_now where shown is not null and from_at <= now() and (until_at is null or until_at > now())) as needs,
      (select count(*) from wait_now) as jobs,
      (select count(*) from letter where settled_at is null) as letters,
      (select count(*) from tell_rule where is_on and trouble is not null) as "rulesFailing",
      (select count(*) from sign_in_guess where at > now() - interval '1 hour') as "signInFailures",
      (select extract(epoch from beat_at) from heartbeat) as "beatAt",
      (select extract(epoch from at) from backup_made order by n desc limit 1) as "backupAt",
      (select bytes from backup_made order by n desc limit 1) as "backupBytes"`.execute(db);
  const numbers = Object.entries(rows[0] ?? {}).map(([name, value]) => [name, value === null ? null : Number(value)]);
  return Object.fromEntries(numbers) as unknown as Figures;
}
