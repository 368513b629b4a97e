import { organisation, type Organisation } from '../store/organisation';
import { allPeople, type Person } from '../store/people';
import { tokensOf, type StoredToken } from '../store/tokens';
import type { App } from './app';
import { mayAct, type Viewer } from './viewer';

export type { Organisation, Person, StoredToken };

export interface Settings {
  readonly organisation: Organisation;
  /** Only an owner sees who else may come in. */
  readonly people: readonly Person[] | null;
  readonly tokens: readonly StoredToken[];
  /** Whether the viewer signs in with a password, or came by a link alone. */
  readonly hasPassword: boolean;
}

export async function readSettings(app: App, viewer: Viewer): Promise<Settings> {
  const [org, everybody, tokens] = await Promise.all([organisation(app.db), allPeople(app.db), tokensOf(app.db, viewer.id)]);
  return {
    organisation: org,
    people: mayAct(viewer, 'owner') ? everybody : null,
    tokens,
    hasPassword: everybody.some(({ id, hasPassword }) => id === viewer.id && hasPassword),
  };
}

export function readOrganisation(app: App): Promise<Organisation> {
  return organisation(app.db);
}
