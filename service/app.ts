import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Profile } from '../core/platform/profile';
import { profileSchema } from '../schemas/profile';
import { clockOf, type Clock } from '../store/clock';
import { openDatabase, type Database } from '../store/database';
import { openThreads, type Threads } from './bench/threads';
import { createAuth, type Auth } from './access/auth';
import { createValidator } from './door/validation';
import { sealOf, type Seal } from './watch/seal';

/** All a service needs of the world: the database, the sign-in, the profiles. */
export interface App {
  readonly db: Database;
  readonly clock: Clock;
  readonly auth: Auth;
  readonly profiles: ReadonlyMap<string, Profile>;
  readonly baseUrl: string;
  readonly threads: Threads;
  /** Seals what the database keeps and must not tell. */
  readonly seal: Seal;
}

export interface AppSettings {
  readonly databaseUrl: string;
  readonly secret: string;
  readonly baseUrl: string;
  /** The checkout: the shipped profiles are read from it. */
  readonly root: string;
  /** The program of the threads, built; left out, it is read from its source. */
  readonly threads?: string;
}

export function openApp({ databaseUrl, secret, baseUrl, root, threads }: AppSettings): App {
  const db = openDatabase(databaseUrl);
  return {
    db,
    clock: clockOf(db),
    auth: createAuth(db, { baseUrl, secret }),
    profiles: readProfiles(join(root, 'core', 'platform', 'profiles')),
    baseUrl,
    threads: openThreads(root, threads),
    seal: sealOf(secret),
  };
}

const validateProfile = createValidator(profileSchema);

/** Every JSON file of the folder is a profile; one more file is one more profile. */
export function readProfiles(folder: string): Map<string, Profile> {
  const profiles = readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => {
      const checked = validateProfile(JSON.parse(readFileSync(join(folder, name), 'utf8')));
      if (checked.kind === 'invalid')
        throw new Error(
          `${name} is no platform profile: ${checked.errors.map(({ pointer, detail }) => `${pointer} ${detail}`).join('; ')}`,
        );
      return checked.value;
    });
  return new Map(profiles.map((profile) => [profile.id, profile]));
}
