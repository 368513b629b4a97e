import { sql } from 'kysely';
import type { SECURITIES } from '../schemas/tell';
import type { Database } from './database';

/** The mail server messages go out by. */
export interface MailServer {
  readonly host: string;
  readonly port: number;
  readonly security: (typeof SECURITIES)[number];
  readonly userName: string | null;
  /** Sealed. */
  readonly secret: Buffer | null;
  readonly sender: string;
  readonly setBy: string;
}

export async function mailServer(db: Database): Promise<MailServer | undefined> {
  const row = await db.selectFrom('outgoing').selectAll().executeTakeFirst();
  return (
    row && {
      host: row.host,
      port: row.port,
      security: row.security as MailServer['security'],
      userName: row.user_name,
      secret: row.secret,
      sender: row.sender,
      setBy: row.set_by,
    }
  );
}

export async function saveMailServer(db: Database, server: MailServer): Promise<void> {
  const { host, port, security, userName, secret, sender, setBy } = server;
  const values = { host, port, security, user_name: userName, secret, sender, set_by: setBy, set_at: sql<Date>`now()` };
  await db
    .insertInto('outgoing')
    .values({ id: true, ...values })
    .onConflict((conflict) => conflict.column('id').doUpdateSet(values))
    .execute();
}

export async function deleteMailServer(db: Database): Promise<boolean> {
  return (await db.deleteFrom('outgoing').executeTakeFirst()).numDeletedRows > 0n;
}
