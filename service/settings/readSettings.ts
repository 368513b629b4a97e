import { lastBackup, type BackupMade } from '../../store/backups';
import { organisation, type Organisation } from '../../store/organisation';
import { allPeople, type Person } from '../../store/people';
import { ownProfiles } from '../../store/profiles';
import { placesOf, type PlaceName } from '../../store/shelf';
import { tokensOf, type StoredToken } from '../../store/tokens';
import type { App } from '../app';
import { allProfiles } from './profiles';
import { mayAct, type Viewer } from '../access/viewer';

export type { Organisation, Person, StoredToken };

export interface Settings {
  readonly organisation: Organisation;
  /** Only an owner sees who else may come in. */
  readonly people: readonly Person[] | null;
  readonly tokens: readonly StoredToken[];
  readonly profiles: readonly { readonly id: string; readonly name: string; readonly isOwn: boolean }[];
  /** Whether the viewer signs in with a password, or came by a link alone. */
  readonly hasPassword: boolean;
  readonly hasSecondFactor: boolean;
  /** The last good backup of the shelf, for an owner; `null` where none is known of. */
  readonly lastBackup: BackupMade | null;
}

export async function readSettings(app: App, viewer: Viewer): Promise<Settings> {
  const [org, everybody, tokens, known, own, backup] = await Promise.all([
    organisation(app.db),
    allPeople(app.db),
    tokensOf(app.db, viewer.id),
    allProfiles(app),
    ownProfiles(app.db),
    mayAct(viewer, 'owner') ? lastBackup(app.db) : null,
  ]);
  const ownIds = new Set(own.map(({ id }) => id));
  return {
    organisation: org,
    people: mayAct(viewer, 'owner') ? everybody : null,
    tokens,
    profiles: [...known.values()].map(({ id, name }) => ({ id, name, isOwn: ownIds.has(id) })),
    hasPassword: everybody.some(({ id, hasPassword }) => id === viewer.id && hasPassword),
    hasSecondFactor: everybody.some(({ id, hasSecondFactor }) => id === viewer.id && hasSecondFactor),
    lastBackup: backup,
  };
}

export function readOrganisation(app: App): Promise<Organisation> {
  return organisation(app.db);
}

/** Sites with their rooms, to choose from. */
export async function readPlaces(app: App): Promise<readonly PlaceName[]> {
  return placesOf(app.db);
}
