import { sql, type Selectable } from 'kysely';
import { randomUUID } from 'node:crypto';
import { SAME_FOR_MINUTES, type KeptCause } from '../core/tell/followCauses';
import type { ToTell } from '../core/tell/isDue';
import type { Severity } from '../core/tell/severity';
import type { CauseRoot } from '../core/upkeep/causes';
import type { NeedCode } from '../core/upkeep/need';
import type { Database, Transaction } from './database';
import type { Cause as Row } from './generated';

/** One process follows causes at a time; `false` where another is at it. Held until the transaction ends. */
export async function takeFollowing(tx: Transaction): Promise<boolean> {
  const { rows } = await sql<{ got: boolean }>`
    select pg_try_advisory_xact_lock(hashtext('patient-shelf causes')) as got`.execute(tx);
  return rows[0]?.got === true;
}

/** The open cause of each unit and root, or the last that was closed so lately that it may be the same. */
export async function keptCauses(tx: Transaction): Promise<KeptCause[]> {
  const { rows } = await sql<Selectable<Row>>`
    select distinct on (unit, root) * from cause
    where closed_at is null or closed_at >= now() - make_interval(mins => ${SAME_FOR_MINUTES}::int)
    order by unit, root, closed_at desc nulls first`.execute(tx);
  return rows.map(causeIn);
}

export async function addCauses(tx: Transaction, causes: readonly Omit<KeptCause, 'id'>[]): Promise<void> {
  if (causes.length === 0) return;
  await tx
    .insertInto('cause')
    .values(causes.map((cause) => ({ id: randomUUID(), ...rowOf(cause) })))
    .execute();
}

/** Who has seen it stays as it is, but where it got worse. */
export async function changeCause(tx: Transaction, { id, ...cause }: KeptCause): Promise<void> {
  const { seen_at, seen_by, ...row } = rowOf(cause);
  const at = new Date(cause.changedAt);
  await tx
    .updateTable('cause')
    .set({
      ...row,
      seen_at: sql<Date | null>`case when changed_at = ${at} then seen_at else ${seen_at} end`,
      seen_by: sql<string | null>`case when changed_at = ${at} then seen_by else ${seen_by} end`,
    })
    .where('id', '=', id)
    .execute();
}

/** Every cause that lasts, most urgent first. */
export async function openCauses(db: Database): Promise<KeptCause[]> {
  const rows = await db.selectFrom('cause').selectAll().where('closed_at', 'is', null).orderBy('urgency').execute();
  return rows.map(causeIn);
}

export async function causeById(db: Database, id: string): Promise<KeptCause | undefined> {
  const row = await db.selectFrom('cause').selectAll().where('id', '=', id).executeTakeFirst();
  return row && causeIn(row);
}

/**
 * Somebody has seen a cause as it was since `changedAt`; one that got worse since has to be seen anew.
 *
 * @returns whether it was seen by this, or before
 */
export async function markSeen(db: Database, id: string, changedAt: string, by: string): Promise<boolean> {
  const { numUpdatedRows } = await db
    .updateTable('cause')
    .set({ seen_at: sql<Date>`coalesce(seen_at, now())`, seen_by: sql<string>`coalesce(seen_by, ${by})` })
    .where('id', '=', id)
    .where('changed_at', '=', new Date(changedAt))
    .where('closed_at', 'is', null)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

/** It has not been seen after all. */
export async function markUnseen(db: Database, id: string): Promise<boolean> {
  const { numUpdatedRows } = await db
    .updateTable('cause')
    .set({ seen_at: null, seen_by: null })
    .where('id', '=', id)
    .where('closed_at', 'is', null)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

/** News older than this is told to nobody any more. */
const NEWS_DAYS = 4;

/** Everything somebody may have to be told now: what lasts, and what became of work lately. */
export async function allToTell(db: Database): Promise<ToTell[]> {
  const { rows } = await sql<{
    id: string;
    kind: 'cause' | 'news';
    unit: string;
    name: string;
    site: string;
    severity: Severity;
    title: string;
    reason: string;
    others: number;
    changed_at: Date;
    seen_at: Date | null;
  }>`
    select cause.id, 'cause' as kind, cause.unit, unit_now.name, unit_now.site, severity, title, reason, others, changed_at, seen_at
      from cause join unit_now on unit_now.unit = cause.unit where closed_at is null
    union all
    select message.id, 'news', message.unit, unit_now.name, unit_now.site, 'sign', sentence, '', 0, made_at, null
      from message join unit_now on unit_now.unit = message.unit where made_at >= now() - make_interval(days => ${NEWS_DAYS}::int)`.execute(
    db,
  );
  return rows.map(({ name, changed_at, seen_at, ...row }) => ({
    ...row,
    unitName: name,
    changedAt: changed_at.toISOString(),
    seenAt: seen_at?.toISOString() ?? null,
  }));
}

function rowOf(cause: Omit<KeptCause, 'id'>) {
  const { beganAt, changedAt, closedAt, seenAt, seenBy, grave, ...same } = cause;
  return {
    ...same,
    grave: [...grave],
    began_at: beganAt,
    changed_at: changedAt,
    closed_at: closedAt,
    seen_at: seenAt,
    seen_by: seenBy,
  };
}

function causeIn(row: Selectable<Row>): KeptCause {
  return {
    id: row.id,
    unit: row.unit,
    root: row.root as CauseRoot,
    code: row.code as NeedCode,
    severity: row.severity as Severity,
    urgency: row.urgency,
    grave: row.grave,
    title: row.title,
    reason: row.reason,
    others: row.others,
    beganAt: row.began_at.toISOString(),
    changedAt: row.changed_at.toISOString(),
    closedAt: row.closed_at?.toISOString() ?? null,
    seenAt: row.seen_at?.toISOString() ?? null,
    seenBy: row.seen_by,
  };
}
