import { sql } from 'kysely';
import type { Database } from './database';

/** That what listens and tells is alive, and whom it tells so. */
export interface Heartbeat {
  readonly beatAt: string;
  /** An address outside that is called every minute; somebody there notices when it is not. */
  readonly address: string | null;
  readonly calledAt: string | null;
  readonly trouble: string | null;
}

export async function heartbeat(db: Database): Promise<Heartbeat> {
  const row = await db.selectFrom('heartbeat').selectAll().executeTakeFirstOrThrow();
  return {
    beatAt: row.beat_at.toISOString(),
    address: row.address,
    calledAt: row.called_at?.toISOString() ?? null,
    trouble: row.trouble,
  };
}

export async function beat(db: Database): Promise<void> {
  await db
    .updateTable('heartbeat')
    .set({ beat_at: sql<Date>`now()` })
    .execute();
}

export async function saveHeartbeatAddress(db: Database, address: string | null): Promise<void> {
  await db.updateTable('heartbeat').set({ address, called_at: null, trouble: null }).execute();
}

/** Takes the call of this minute: one process makes it. `null` where it was made, or where nobody is to be called. */
export async function takeCall(db: Database, everySeconds: number): Promise<string | null> {
  const { rows } = await sql<{ address: string }>`
    update heartbeat set called_at = now()
    where address is not null and (called_at is null or called_at <= now() - make_interval(secs => ${everySeconds}))
    returning address`.execute(db);
  return rows[0]?.address ?? null;
}

export async function saveCalled(db: Database, trouble: string | null): Promise<void> {
  await db.updateTable('heartbeat').set({ trouble }).execute();
}
