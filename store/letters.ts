import { sql, type Selectable } from 'kysely';
import { randomUUID } from 'node:crypto';
import type { Letter } from '../core/observe/readLetter';
import type { Database, Transaction } from './database';
import type { Letter as Row } from './generated';

/** A mail that came. */
export interface StoredLetter extends Letter {
  readonly id: string;
  readonly cameAt: string;
  /** When it says it was written. */
  readonly writtenAt: string | null;
  /** The shelf wrote it: its own mail comes here too. */
  readonly isOurs: boolean;
  readonly unit: string | null;
  /** Why it could not be read: its words are then what came. */
  readonly unreadBecause: string | null;
  readonly settledAt: string | null;
  readonly settledBy: string | null;
}

export type NewLetter = Pick<
  StoredLetter,
  'sender' | 'recipients' | 'subject' | 'words' | 'writtenAt' | 'isOurs' | 'unit' | 'settledBy' | 'unreadBecause'
> & {
  /** By which the same mail is known again. */
  readonly messageId: string;
};

/** Keeps a mail. @returns its id; `null` where the same one is kept already */
export async function addLetter(tx: Transaction, letter: NewLetter): Promise<string | null> {
  const { messageId, recipients, writtenAt, isOurs, settledBy, unreadBecause, ...same } = letter;
  const row = await tx
    .insertInto('letter')
    .values({
      ...same,
      id: randomUUID(),
      message_id: messageId,
      recipients: [...recipients],
      written_at: writtenAt,
      is_ours: isOurs,
      settled_by: settledBy,
      unread_because: unreadBecause,
      settled_at: settledBy === null ? null : sql<Date>`now()`,
    })
    .onConflict((conflict) => conflict.column('message_id').doNothing())
    .returning('id')
    .executeTakeFirst();
  return row?.id ?? null;
}

/** How many came within the last minute. */
export async function cameLately(db: Database): Promise<number> {
  const { rows } = await sql<{ n: string }>`
    select count(*) as n from letter where came_at > now() - interval '1 minute'`.execute(db);
  return Number(rows[0]?.n ?? 0);
}

/** Those that wait for a person first, then the newest. */
export async function newestLetters(db: Database, most: number, unit?: string): Promise<StoredLetter[]> {
  const rows = await db
    .selectFrom('letter')
    .selectAll()
    .$if(unit !== undefined, (query) => query.where('unit', '=', unit ?? ''))
    .orderBy(sql`settled_at is not null`)
    .orderBy('came_at', 'desc')
    .limit(most)
    .execute();
  return rows.map(letterIn);
}

export async function letterById(db: Database, id: string): Promise<StoredLetter | undefined> {
  const row = await db.selectFrom('letter').selectAll().where('id', '=', id).executeTakeFirst();
  return row && letterIn(row);
}

/** Mails of a unit that wait for a person, newest first. */
export async function lettersWaiting(db: Database, unit: string, most: number): Promise<StoredLetter[]> {
  const rows = await db
    .selectFrom('letter')
    .selectAll()
    .where('unit', '=', unit)
    .where('settled_at', 'is', null)
    .orderBy('came_at', 'desc')
    .limit(most)
    .execute();
  return rows.map(letterIn);
}

/** Somebody has read it, and settled what it says. @returns whether it was still to be settled */
export async function settleLetter(tx: Transaction, id: string, by: string): Promise<boolean> {
  const { numUpdatedRows } = await tx
    .updateTable('letter')
    .set({ settled_at: sql<Date>`now()`, settled_by: by })
    .where('id', '=', id)
    .where('settled_at', 'is', null)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

/** It is about that unit, or about none. */
export async function letterIsAbout(tx: Transaction, id: string, unit: string | null): Promise<void> {
  await tx.updateTable('letter').set({ unit }).where('id', '=', id).execute();
}

function letterIn(row: Selectable<Row>): StoredLetter {
  return {
    id: row.id,
    sender: row.sender,
    recipients: row.recipients,
    subject: row.subject,
    words: row.words,
    cameAt: row.came_at.toISOString(),
    writtenAt: row.written_at?.toISOString() ?? null,
    isOurs: row.is_ours,
    unit: row.unit,
    unreadBecause: row.unread_because,
    settledAt: row.settled_at?.toISOString() ?? null,
    settledBy: row.settled_by,
  };
}
