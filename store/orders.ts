import { sql } from 'kysely';
import type { DriveDescription } from '../schemas/driveEvent';
import type { Database, Transaction } from './database';

/** Drives ordered: so many of one kind. */
export interface DriveOrder {
  readonly id: string;
  readonly orderedAt: string;
  readonly supplier: string;
  readonly count: number;
  readonly drive: DriveDescription;
  readonly expectedOn: string | null;
  readonly note: string | null;
  readonly recordedBy: string;
  /** Serials that have come of it. */
  readonly received: number;
  /** Why nothing more of it is expected; `null` while something is. */
  readonly closed: string | null;
}

export async function insertOrder(db: Database, order: Omit<DriveOrder, 'received' | 'closed'>): Promise<void> {
  await db
    .insertInto('drive_order')
    .values({
      id: order.id,
      ordered_at: order.orderedAt,
      supplier: order.supplier,
      count: order.count,
      description: JSON.stringify(order.drive),
      expected_on: order.expectedOn,
      note: order.note,
      recorded_by: order.recordedBy,
    })
    .execute();
}

/** Whoever writes an order down waits here for whoever does. */
export async function lockOrders(tx: Transaction): Promise<void> {
  await sql`select pg_advisory_xact_lock(hashtext('patient-shelf orders'))`.execute(tx);
}

/** Orders written down in the last so many seconds. */
export async function ordersOfLate(tx: Transaction, seconds: number): Promise<string[]> {
  const rows = await tx
    .selectFrom('drive_order')
    .select('id')
    .where('recorded_at', '>', sql<Date>`now() - make_interval(secs => ${seconds}::int)`)
    .execute();
  return rows.map(({ id }) => id);
}

export async function closeOrder(db: Database, id: string, reason: string, by: string): Promise<boolean> {
  const row = await db
    .insertInto('drive_order_closed')
    .values({ drive_order: id, reason, recorded_by: by })
    .onConflict((conflict) => conflict.doNothing())
    .returning('drive_order')
    .executeTakeFirst();
  return row !== undefined;
}

export async function listOrders(db: Database, id?: string): Promise<DriveOrder[]> {
  const rows = await db
    .selectFrom('drive_order')
    .leftJoin('drive_order_closed', 'drive_order_closed.drive_order', 'drive_order.id')
    .select([
      'id',
      'ordered_at',
      'supplier',
      'count',
      'description',
      sql<string | null>`expected_on::text`.as('expected_on'),
      'note',
      'drive_order.recorded_by',
      'reason',
      sql<string>`(select count(distinct subject) from entry where ledger = 'drive' and kind = 'received' and body->>'order' = drive_order.id::text and not exists (select from act back where back.takes_back = entry.act))`.as(
        'received',
      ),
    ])
    .$if(id !== undefined, (query) => query.where('id', '=', id ?? ''))
    .orderBy('ordered_at', 'desc')
    .orderBy('id')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    orderedAt: row.ordered_at.toISOString(),
    supplier: row.supplier,
    count: row.count,
    drive: row.description as unknown as DriveDescription,
    expectedOn: row.expected_on,
    note: row.note,
    recordedBy: row.recorded_by,
    received: Number(row.received),
    closed: row.reason,
  }));
}
