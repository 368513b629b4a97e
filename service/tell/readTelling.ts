import type { NewMailServer } from '../../schemas/tell';
import { heartbeat, type Heartbeat } from '../../store/heartbeat';
import { mailServer } from '../../store/outgoing';
import { allPeople } from '../../store/people';
import { tellRules, type StoredRule } from '../../store/tellRules';
import { mayAct, type Viewer } from '../access/viewer';
import type { App } from '../app';

export type { Heartbeat };

/** A rule as it is shown: without what it is signed with. */
export type ShownRule = Omit<StoredRule, 'secret' | 'tries' | 'since' | 'pending'>;

function shown({ secret: _secret, tries: _tries, since: _since, pending: _pending, ...rule }: StoredRule): ShownRule {
  return rule;
}

/** The rules somebody may see: an owner all, anybody else their own. */
export async function readTellRules(app: App, viewer: Viewer): Promise<ShownRule[]> {
  return (await tellRules(app.db, mayAct(viewer, 'owner') ? undefined : viewer.id)).map(shown);
}

/** The mail server as it is shown: its password never is. */
export interface ShownServer {
  readonly host: string;
  readonly port: number;
  readonly security: NewMailServer['security'];
  readonly user: string | null;
  readonly hasPassword: boolean;
  readonly sender: string;
  readonly setBy: string;
}

export async function readMailServer(app: App): Promise<ShownServer | null> {
  const server = await mailServer(app.db);
  if (!server) return null;
  const { host, port, security, userName, secret, sender, setBy } = server;
  return { host, port, security, user: userName, hasPassword: secret !== null, sender, setBy };
}

export function readHeartbeat(app: App): Promise<Heartbeat> {
  return heartbeat(app.db);
}

/** Everybody a mail can go to. */
export async function readWhoCanBeTold(app: App): Promise<{ readonly id: string; readonly name: string }[]> {
  return (await allPeople(app.db)).map(({ id, name }) => ({ id, name }));
}
