import type { Profile } from '../../core/platform/profile';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { profileSchema } from '../../schemas/profile';
import { deleteProfile, ownProfiles, saveProfile } from '../../store/profiles';
import type { App } from '../app';
import { about } from '../door/about';
import { operation, operationTaking, type Asked } from '../door/operation';

/** Every profile known here: the shipped ones, and the user's own, which take the place of a shipped one of their id. */
export async function allProfiles(app: App): Promise<Map<string, Profile>> {
  return new Map([
    ...app.profiles,
    ...(await ownProfiles(app.db)).map((profile): [string, Profile] => [profile.id, profile]),
  ]);
}

/** A profile by its id, or the whole one that was sent along. */
export async function profileOf(app: App, asked: string | Profile): Promise<Profile | Refusal> {
  if (typeof asked !== 'string') return asked;
  const known = await allProfiles(app);
  return (
    known.get(asked) ??
    refusal('profile-unknown', `There is no profile "${asked}". Known: ${[...known.keys()].join(', ')}.`, '/profile')
  );
}

/** An operation about the profile its body names or brings along. */
export const aboutProfile = about(({ app, body }: Asked<{ readonly profile: unknown }>) =>
  profileOf(app, body.profile as string | Profile),
);

const listProfiles = operation({
  method: 'GET',
  path: '/profiles',
  summary: 'The platform profiles known here',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ profiles: [...(await allProfiles(app)).values()] }),
});

const getProfile = operation({
  method: 'GET',
  path: '/profiles/{id}',
  summary: 'One platform profile, as JSON to take away',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params }) => {
    const profile = await profileOf(app, params['id'] ?? '');
    return isRefusal(profile) ? refusal('not-found', profile.sentence) : profile;
  },
});

const getSchema = operation({
  method: 'GET',
  path: '/schemas/profile',
  summary: 'The JSON Schema of a platform profile',
  needs: 'reader',
  scope: 'read',
  run: (): Promise<object> => Promise.resolve(profileSchema),
});

const putProfile = operationTaking<Profile>(profileSchema)({
  method: 'PUT',
  path: '/profiles/{id}',
  summary: 'Add a profile of your own, or change one; a shipped one is covered, not lost',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, viewer, params, body }) => {
    if (body.id !== params['id'])
      return refusal(
        'id-differs',
        `The profile calls itself "${body.id}", the address says "${params['id'] ?? ''}".`,
        '/id',
      );
    await saveProfile(app.db, body, viewer.name);
    return body;
  },
});

const removeProfile = operation({
  method: 'DELETE',
  path: '/profiles/{id}',
  summary: 'Remove a profile of your own; a shipped one that it covered is there again',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, params }) =>
    (await deleteProfile(app.db, params['id'] ?? ''))
      ? { id: params['id'] }
      : refusal('not-found', 'There is no such profile of your own.'),
});

export const profiles = [listProfiles, getProfile, putProfile, removeProfile, getSchema];
