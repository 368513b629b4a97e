import { sql } from 'kysely';
import type { Database, Transaction } from './database';

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: string;
  readonly sessions: number;
  readonly hasPassword: boolean;
  readonly hasSecondFactor: boolean;
}

export async function allPeople(db: Database): Promise<Person[]> {
  const rows = await db
    .selectFrom('auth.user as person')
    .select((of) => [
      'person.id',
      'person.name',
      'person.email',
      'person.role',
      'person.twoFactorEnabled',
      of
        .selectFrom('auth.session')
        .whereRef('userId', '=', 'person.id')
        .where('expiresAt', '>', new Date())
        .select((s) => s.fn.countAll<string>().as('n'))
        .as('sessions'),
      of
        .exists(
          of
            .selectFrom('auth.account')
            .whereRef('userId', '=', 'person.id')
            .where('password', 'is not', null)
            .select('id'),
        )
        .as('hasPassword'),
    ])
    .orderBy('person.name')
    .execute();
  return rows.map(({ twoFactorEnabled, ...row }) => ({
    ...row,
    sessions: Number(row.sessions),
    hasPassword: Boolean(row.hasPassword),
    hasSecondFactor: twoFactorEnabled === true,
  }));
}

/** Whose e-mail this is, in any case of its letters. */
export async function personOfEmail(db: Database, email: string): Promise<string | undefined> {
  const row = await db.selectFrom('auth.user').select('id').where('email', '=', email.toLowerCase()).executeTakeFirst();
  return row?.id;
}

export async function countPeople(db: Database): Promise<number> {
  const { n } = await db
    .selectFrom('auth.user')
    .select((of) => of.fn.countAll<string>().as('n'))
    .executeTakeFirstOrThrow();
  return Number(n);
}

/** Changes a role, unless that would leave nobody who is owner. Returns whether it did. */
export async function changeRole(db: Database, id: string, role: string): Promise<boolean> {
  return db.transaction().execute(async (tx) => {
    const owners = await tx.selectFrom('auth.user').select('id').where('role', '=', 'owner').forUpdate().execute();
    if (role !== 'owner' && owners.every((owner) => owner.id === id)) return false;
    await tx.updateTable('auth.user').set({ role, updatedAt: new Date() }).where('id', '=', id).execute();
    return true;
  });
}

/** Removes somebody with all sessions and tokens, unless that would leave nobody who is owner. */
export async function removePerson(db: Database, id: string): Promise<boolean> {
  return db.transaction().execute(async (tx) => {
    const owners = await tx.selectFrom('auth.user').select('id').where('role', '=', 'owner').forUpdate().execute();
    if (owners.every((owner) => owner.id === id)) return false;
    await tx.deleteFrom('auth.user').where('id', '=', id).execute();
    return true;
  });
}

/** Whoever adds something of a person's that is counted waits here for whoever does. */
export async function lockPerson(tx: Transaction, id: string): Promise<void> {
  await sql`select pg_advisory_xact_lock(hashtext('patient-shelf person'), hashtext(${id}))`.execute(tx);
}
