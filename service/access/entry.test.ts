import { sql } from 'kysely';
import { createHash } from 'node:crypto';
import { CLIENT_HEADER } from './clientHeader';
import { armEntry, purposeOfEntry } from './entry';
import { testShelf, type TestShelf } from '../testing/testShelf';
import { viewerOf } from './viewer';

let shelf: TestShelf;
beforeEach(async () => {
  shelf = await testShelf();
});
afterEach(() => shelf.close());

const post = (path: string, body: object, client = '127.0.0.1') =>
  shelf.app.auth.handler(
    new Request(`http://127.0.0.1:4999/api/auth${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: 'http://127.0.0.1:4999', [CLIENT_HEADER]: client },
      body: JSON.stringify(body),
    }),
  );
const viewer = (response: Response) =>
  viewerOf(shelf.app, new Headers({ cookie: (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '' }));

it('makes the first account the owner’s, once', async () => {
  const key = await armEntry(shelf.app.auth, { kind: 'first-owner' }, 1);
  expect((await post('/entry', { key })).status).toBe(422);
  expect((await post('/entry', { key, name: 'Ann', email: 'ann@example.org', password: 'short' })).status).toBe(422);
  // A form that was not right has not cost the key.
  const entered = await post('/entry', { key, name: 'Ann', email: 'Ann@Example.org', password: 'long enough, this' });
  expect(await viewer(entered)).toMatchObject({ name: 'Ann', role: 'owner', via: 'session' });
  expect(
    (await post('/entry', { key, name: 'Eve', email: 'eve@example.org', password: 'long enough, too' })).status,
  ).toBe(410);
  const other = await armEntry(shelf.app.auth, { kind: 'first-owner' }, 1);
  expect(
    (await post('/entry', { key: other, name: 'Eve', email: 'eve@example.org', password: 'long enough, too' })).status,
  ).toBe(410);
  expect((await post('/sign-in/email', { email: 'ann@example.org', password: 'long enough, this' })).status).toBe(200);
});

it('lets one of many at once use a key', async () => {
  const { id } = await shelf.cookieOf('keeper');
  const key = await armEntry(shelf.app.auth, { kind: 'enter', userId: id }, 1);
  const statuses = (await Promise.all([1, 2, 3, 4, 5].map(() => post('/entry', { key })))).map(({ status }) => status);
  expect(statuses.filter((status) => status === 200)).toHaveLength(1);
});

it('is not used up by looking, is not kept in clear, and ends with its time', async () => {
  const { id } = await shelf.cookieOf('keeper');
  const key = await armEntry(shelf.app.auth, { kind: 'enter', userId: id }, 1, 'a-key-that-is-known');
  expect(await purposeOfEntry(shelf.app.auth, key)).toEqual({ kind: 'enter', userId: id });
  expect(await purposeOfEntry(shelf.app.auth, key)).not.toBeNull();
  const kept = JSON.stringify(await shelf.app.db.selectFrom('auth.verification').selectAll().execute());
  expect(kept).not.toContain(key);
  expect(kept).toContain(createHash('sha256').update(key).digest('hex'));
  await shelf.app.db
    .updateTable('auth.verification')
    .set({ expiresAt: new Date(Date.now() - 1000) })
    .execute();
  expect(await purposeOfEntry(shelf.app.auth, key)).toBeNull();
  expect((await post('/entry', { key })).status).toBe(410);
});

it('does not let anybody sign up, or choose a role', async () => {
  expect(
    (await post('/sign-up/email', { name: 'Eve', email: 'eve@example.org', password: 'long enough, too' })).status,
  ).toBeGreaterThanOrEqual(400);
  const key = await armEntry(shelf.app.auth, { kind: 'join', userId: (await shelf.cookieOf('reader')).id }, 1);
  expect((await post('/entry', { key, password: 'long enough, too', role: 'owner' })).status).toBe(422);
  expect(await viewer(await post('/entry', { key, password: 'long enough, too' }))).toMatchObject({ role: 'reader' });
});

it('keeps one live link a person; a password that is set ends every session and link; one of somebody removed is used up', async () => {
  const session = await shelf.cookieOf('owner');
  const added = (await shelf.ask('POST', '/people', session, { name: 'Bo', email: 'bo@example.org', role: 'keeper' }))
    .body;
  const keyOf = ({ link }: { readonly link?: string }): string => new URL(String(link)).searchParams.get('key') ?? '';
  const another = async (): Promise<string> =>
    keyOf((await shelf.ask('POST', `/people/${String(added['id'])}/link`, session)).body);
  const first = keyOf(added);
  const second = await another();
  expect((await post('/entry', { key: first, password: 'long enough, this' })).status).toBe(410);
  const entered = await post('/entry', { key: second, password: 'long enough, this' });
  expect(await viewer(entered)).toMatchObject({ name: 'Bo' });
  const again = await post('/entry', { key: await another(), password: 'another long one' });
  // Who was in by the old password is out; who set the new one is in.
  expect([await viewer(entered), (await viewer(again))?.name]).toEqual([null, 'Bo']);
  const last = await another();
  expect((await shelf.ask('DELETE', `/people/${String(added['id'])}`, session)).status).toBe(200);
  expect((await post('/entry', { key: last, password: 'long enough, this' })).status).toBe(410);
});

it('throttles guessing, by where it comes from', async () => {
  const statuses: number[] = [];
  for (let i = 0; i < 21; i++) statuses.push((await post('/entry', { key: `guess ${String(i)}` }, '10.1.1.1')).status);
  expect(statuses.slice(0, 20).every((status) => status === 410)).toBe(true);
  expect(statuses[20]).toBe(429);
  expect((await post('/entry', { key: 'guess' }, '10.1.1.2')).status).toBe(410);
});

it('counts guesses by account and address: wrong ones of one lock nobody else out', async () => {
  const { id } = await shelf.cookieOf('keeper');
  const join = await armEntry(shelf.app.auth, { kind: 'join', userId: id }, 1);
  const password = 'long enough, this';
  // Its person comes in at 10.2.2.2.
  expect((await post('/entry', { key: join, password }, '10.2.2.2')).status).toBe(200);
  const { email } = (await (await shelf.app.auth.$context).internalAdapter.findUserById(id)) as { email: string };
  const signIn = async (given: string, client: string, as = email): Promise<number> =>
    (await post('/sign-in/email', { email: as, password: given }, client)).status;

  const wrong: number[] = [];
  for (let i = 0; i < 12; i++) wrong.push(await signIn('wrong', '10.3.3.3'));
  expect(wrong).toEqual([...Array.from({ length: 10 }, () => 401), 429, 429]);
  // The right one does not help there any more; another account does, and the person's own address always did.
  expect(await signIn(password, '10.3.3.3', email.toUpperCase())).toBe(429);
  expect(await signIn('wrong', '10.3.3.3', 'nobody@example.org')).toBe(401);
  expect(await signIn(password, '10.2.2.2')).toBe(200);

  // Many strangers from many places: strangers are stopped, its person is not.
  await sql`insert into sign_in_guess (account, address) select ${email}, '10.4.0.' || n from generate_series(1, 100) n`.execute(
    shelf.app.db,
  );
  expect(await signIn('wrong', '10.5.5.5')).toBe(429);
  expect(await signIn(password, '10.2.2.2')).toBe(200);
  // Many at once count each other.
  const once = await Promise.all(Array.from({ length: 20 }, () => signIn('wrong', '10.6.6.6', 'other@example.org')));
  expect(once.filter((status) => status === 401).length).toBeLessThanOrEqual(10);
});
