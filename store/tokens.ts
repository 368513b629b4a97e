import { sql } from 'kysely';
import type { Database } from './database';

export interface StoredToken {
  readonly id: string;
  readonly userId: string;
  readonly name: string;
  readonly scopes: readonly string[];
  readonly createdAt: string;
  readonly lastUsedAt: string | null;
}

export interface NewToken {
  readonly id: string;
  readonly userId: string;
  readonly name: string;
  readonly hash: string;
  readonly scopes: readonly string[];
  /** Left out for one that is ended by hand. */
  readonly expiresAt?: Date;
}

/** Adds a token. Those of that person that are over open nothing any more, and go. */
export async function insertToken(db: Database, token: NewToken): Promise<void> {
  await db.deleteFrom('api_token').where('user_id', '=', token.userId).where('revoked_at', 'is not', null).execute();
  await db
    .insertInto('api_token')
    .values({
      id: token.id,
      user_id: token.userId,
      name: token.name,
      hash: token.hash,
      scopes: [...token.scopes],
      expires_at: token.expiresAt ?? null,
    })
    .execute();
}

export async function tokensOf(db: Database, userId: string): Promise<StoredToken[]> {
  const rows = await db
    .selectFrom('api_token')
    .selectAll()
    .where('user_id', '=', userId)
    .where('revoked_at', 'is', null)
    .orderBy('created_at')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    userId: row.user_id,
    name: row.name,
    scopes: row.scopes,
    createdAt: row.created_at.toISOString(),
    lastUsedAt: row.last_used_at?.toISOString() ?? null,
  }));
}

/** Ends a token for good. Returns whether there was one of that person's to end. */
export async function revokeToken(db: Database, id: string, userId: string): Promise<boolean> {
  const { numUpdatedRows } = await db
    .updateTable('api_token')
    .set({ revoked_at: new Date() })
    .where('id', '=', id)
    .where('user_id', '=', userId)
    .where('revoked_at', 'is', null)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}

export async function revokeTokensNamed(db: Database, userId: string, name: string): Promise<void> {
  await db.deleteFrom('api_token').where('user_id', '=', userId).where('name', '=', name).execute();
}

/** Who a token belongs to, by its hash; notes that it was used, to the minute so that a busy client writes little. */
export async function holderOfToken(
  db: Database,
  hash: string,
): Promise<{ id: string; name: string; role: string; scopes: string[]; token: string } | undefined> {
  const row = await db
    .selectFrom('api_token')
    .innerJoin('auth.user as person', 'person.id', 'api_token.user_id')
    .select(['api_token.id as token', 'last_used_at', 'scopes', 'person.id', 'person.name', 'person.role'])
    .where('hash', '=', hash)
    .where('revoked_at', 'is', null)
    .where((where) => where.or([where('expires_at', 'is', null), where('expires_at', '>', sql<Date>`now()`)]))
    .executeTakeFirst();
  if (!row) return undefined;
  const { last_used_at, ...holder } = row;
  const { token } = holder;
  if (!last_used_at || Date.now() - last_used_at.getTime() > 60_000)
    await db.updateTable('api_token').set({ last_used_at: new Date() }).where('id', '=', token).execute();
  return holder;
}
