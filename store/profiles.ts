import type { Profile } from '../core/platform/profile';
import type { Database } from './database';

/** Profiles of the user's own, by id. */
export async function ownProfiles(db: Database): Promise<Profile[]> {
  return (await db.selectFrom('profile').select('body').orderBy('id').execute()).map(
    ({ body }) => body as unknown as Profile,
  );
}

export async function saveProfile(db: Database, profile: Profile, changedBy: string): Promise<void> {
  const values = { body: JSON.stringify(profile), changed_by: changedBy, changed_at: new Date() };
  await db
    .insertInto('profile')
    .values({ id: profile.id, ...values })
    .onConflict((conflict) => conflict.column('id').doUpdateSet(values))
    .execute();
}

export async function deleteProfile(db: Database, id: string): Promise<boolean> {
  const { numDeletedRows } = await db.deleteFrom('profile').where('id', '=', id).executeTakeFirst();
  return numDeletedRows > 0n;
}
