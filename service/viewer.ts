import { SCOPES, type Role, type Scope } from '../schemas/access';
import { holderOfToken } from '../store/tokens';
import type { App } from './app';
import { hashOfKey } from './oneTimeKey';

/** Who is asking, and by what right. */
export interface Viewer {
  readonly kind: 'viewer';
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly via: 'session' | 'token';
  readonly scopes: readonly Scope[];
}

/** The viewer behind a request: a bearer token when there is one, otherwise the session; `null` for nobody. */
export async function viewerOf(app: App, headers: Headers): Promise<Viewer | null> {
  const authorization = headers.get('authorization');
  if (authorization !== null) {
    const token = /^Bearer +(\S+)$/i.exec(authorization)?.[1];
    const holder = token === undefined ? undefined : await holderOfToken(app.db, hashOfKey(token));
    return holder ? { kind: 'viewer', id: holder.id, name: holder.name, role: holder.role as Role, via: 'token', scopes: holder.scopes as Scope[] } : null;
  }
  const session = await app.auth.api.getSession({ headers });
  return session ? { kind: 'viewer', id: session.user.id, name: session.user.name, role: session.user.role as Role, via: 'session', scopes: SCOPES } : null;
}

const RANK: Record<Role, number> = { reader: 0, keeper: 1, owner: 2 };

/** Owners may do what keepers may, keepers what readers may. */
export function mayAct(viewer: Viewer, needs: Role): boolean {
  return RANK[viewer.role] >= RANK[needs];
}
