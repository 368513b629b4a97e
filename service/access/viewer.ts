import type { Actor } from '../../core/world/act';
import { SCOPES, type Role, type Scope } from '../../schemas/access';
import { holderOfToken } from '../../store/tokens';
import type { App } from '../app';
import { hashOfKey } from './oneTimeKey';

/** Who is asking, and by what right. */
export interface Viewer {
  readonly kind: 'viewer';
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly via: 'session' | 'token';
  readonly scopes: readonly Scope[];
  /** The token it came by. */
  readonly token?: string;
}

/** The viewer behind a request: a bearer token when there is one, otherwise the session; `null` for nobody. */
export async function viewerOf(app: App, headers: Headers): Promise<Viewer | null> {
  const authorization = headers.get('authorization');
  if (authorization !== null) {
    const token = /^Bearer +(\S+)$/i.exec(authorization)?.[1];
    const holder = token === undefined ? undefined : await holderOfToken(app.db, hashOfKey(token));
    if (!holder) return null;
    const { id, name, role, scopes, token: by } = holder;
    return { kind: 'viewer', id, name, role: role as Role, via: 'token', scopes: scopes as Scope[], token: by };
  }
  const session = await app.auth.api.getSession({ headers });
  return session
    ? {
        kind: 'viewer',
        id: session.user.id,
        name: session.user.name,
        role: session.user.role as Role,
        via: 'session',
        scopes: SCOPES,
      }
    : null;
}

/** Who it is that records: a person or a token by id; the name is for display only. */
export function actorOf({ id, name, token }: Viewer): Actor {
  return token === undefined ? { kind: 'person', id, name } : { kind: 'token', id: token, name };
}

const RANK: Record<Role, number> = { reader: 0, keeper: 1, owner: 2 };

/** Owners may do what keepers may, keepers what readers may. */
export function mayAct(viewer: Viewer, needs: Role): boolean {
  return RANK[viewer.role] >= RANK[needs];
}
