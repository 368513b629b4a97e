import { randomUUID } from 'node:crypto';
import { freshDatabase } from '~/ops/freshDatabase';
import type { Role, Scope } from '~/schemas/access';
import { openApp, type App } from '~/service/app';
import { answer } from '~/service/door/door';
import { hashOfKey, newKey } from '~/service/access/oneTimeKey';
import { insertToken } from '~/store/tokens';
import { faultsOf } from './answersAsSaid';

/** An answer's JSON, to look into. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests reach into answers of any shape
export type Json = Record<string, any>;

/** A shelf on a database of its own, for tests, and people to ask as. */
export interface TestShelf {
  readonly app: App;
  /** The installation's, for processes beside it. */
  readonly secret: string;
  readonly addresses: Awaited<ReturnType<typeof freshDatabase>>;
  /** A bearer token of a new person with that role. */
  readonly tokenOf: (role: Role, scopes?: readonly Scope[]) => Promise<string>;
  /** A session cookie of a new person with that role. */
  readonly cookieOf: (role: Role) => Promise<{ readonly cookie: string; readonly id: string }>;
  /** Asks through the one door; `as` is a token, or a cookie. */
  readonly ask: (
    method: string,
    path: string,
    as: string | { readonly cookie: string } | null,
    body?: unknown,
    headers?: Record<string, string>,
  ) => Promise<{ readonly status: number; readonly body: Json; readonly headers: Headers }>;
  readonly close: () => Promise<void>;
}

export const BASE = 'http://127.0.0.1:4999';

/** A shelf for all of a test's file: gone after its last test. */
export async function shelfOfFile(): Promise<TestShelf> {
  const shelf = await testShelf();
  afterAll(() => shelf.close());
  return shelf;
}

export async function testShelf(): Promise<TestShelf> {
  const addresses = await freshDatabase();
  const secret = newKey();
  const app = openApp({ databaseUrl: addresses.app, secret, baseUrl: BASE, root: process.cwd() });

  const person = async (role: Role): Promise<string> => {
    const { internalAdapter } = await app.auth.$context;
    const { id } = await internalAdapter.createUser(
      { name: `A ${role}`, email: `${randomUUID()}@example.org`, emailVerified: false, role },
      { method: 'admin' },
    );
    return id;
  };
  const tokenOf: TestShelf['tokenOf'] = async (role, scopes = ['read', 'write']) => {
    const token = newKey();
    await insertToken(app.db, {
      id: randomUUID(),
      userId: await person(role),
      name: 'test',
      hash: hashOfKey(token),
      scopes,
    });
    return token;
  };
  const cookieOf: TestShelf['cookieOf'] = async (role) => {
    const id = await person(role);
    const context = await app.auth.$context;
    const password = newKey();
    await context.internalAdapter.linkAccount({
      userId: id,
      providerId: 'credential',
      accountId: id,
      password: await context.password.hash(password),
    });
    const email = (await context.internalAdapter.findUserById(id))?.email ?? '';
    const response = await app.auth.api.signInEmail({ body: { email, password }, asResponse: true });
    return { id, cookie: (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '' };
  };
  const ask: TestShelf['ask'] = async (method, path, as, body, headers = {}) => {
    const who: Record<string, string> =
      as === null ? {} : typeof as === 'string' ? { authorization: `Bearer ${as}` } : { cookie: as.cookie };
    // As a page of this server is sent by a browser.
    const from: Record<string, string> = as !== null && typeof as !== 'string' ? { origin: BASE } : {};
    const content: Record<string, string> = body === undefined ? {} : { 'content-type': 'application/json' };
    const request = new Request(`${BASE}/api/v1${path}`, {
      method,
      headers: { host: '127.0.0.1:4999', ...who, ...from, ...content, ...headers },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const response = await answer(app, request, path.split('?')[0] as string);
    const text = await response.text();
    if (!(response.headers.get('content-type') ?? '').includes('json'))
      return { status: response.status, headers: response.headers, body: { text } };
    const json = JSON.parse(text) as Json;
    const faults = response.ok ? faultsOf(method, path.split('?')[0] as string, json) : [];
    if (faults.length > 0) throw new Error(`${method} ${path} does not answer as it says: ${JSON.stringify(faults)}`);
    return { status: response.status, headers: response.headers, body: json };
  };
  return {
    app,
    secret,
    addresses,
    tokenOf,
    cookieOf,
    ask,
    close: async () => {
      await app.threads.end();
      await app.db.destroy();
    },
  };
}
