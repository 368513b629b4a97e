import { codeOfPhone as codeAt } from '../testing/codeOfPhone';
import { shelfOfFile } from '../testing/testShelf';
import { CLIENT_HEADER } from './clientHeader';
import { armEntry } from './entry';
import { viewerOf } from './viewer';

it('reckons codes as RFC 6238, appendix B, has them (SHA-1, the last six digits)', () => {
  const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
  expect([59, 1111111109, 1234567890, 20000000000].map((seconds) => codeAt(secret, seconds * 1000))).toEqual([
    '287082',
    '081804',
    '005924',
    '353130',
  ]);
});

const shelf = await shelfOfFile();

let client = 0;
const post = (path: string, body: object, cookie = '') =>
  shelf.app.auth.handler(
    new Request(`http://127.0.0.1:4999/api/auth${path}`, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        origin: 'http://127.0.0.1:4999',
        [CLIENT_HEADER]: `10.9.0.${String(client)}`,
        ...(cookie === '' ? {} : { cookie }),
      },
      body: JSON.stringify(body),
    }),
  );
const cookiesOf = (response: Response): string =>
  response.headers
    .getSetCookie()
    .filter((cookie) => !/max-age=0/i.test(cookie))
    .map((cookie) => cookie.split(';')[0])
    .join('; ');
const viewer = (cookie: string) => viewerOf(shelf.app, new Headers({ cookie }));
const PASSWORD = 'long enough, this';

/** Somebody with a password, and a second factor that is on. */
async function withSecondFactor(): Promise<{
  readonly email: string;
  readonly id: string;
  readonly secret: string;
  readonly codes: readonly string[];
}> {
  client++;
  const { id } = await shelf.cookieOf('keeper');
  const entered = cookiesOf(
    await post('/entry', { key: await armEntry(shelf.app.auth, { kind: 'join', userId: id }, 1), password: PASSWORD }),
  );
  expect((await post('/two-factor/enable', { password: 'wrong', method: 'totp' }, entered)).status).toBe(400);
  const enabled = (await (
    await post('/two-factor/enable', { password: PASSWORD, method: 'totp' }, entered)
  ).json()) as {
    totpURI: string;
    backupCodes: string[];
  };
  const secret = new URL(enabled.totpURI).searchParams.get('secret') ?? '';
  const { email } = (await (await shelf.app.auth.$context).internalAdapter.findUserById(id)) as { email: string };
  // Until it has been shown to work it asks for nothing.
  expect(
    ((await (await post('/sign-in/email', { email, password: PASSWORD })).json()) as { twoFactorRedirect?: boolean })
      .twoFactorRedirect,
  ).toBeUndefined();
  expect((await post('/two-factor/verify-totp', { code: '000000' }, entered)).status).toBeGreaterThanOrEqual(400);
  expect((await post('/two-factor/verify-totp', { code: codeAt(secret, Date.now()) }, entered)).status).toBe(200);
  return { email, id, secret, codes: enabled.backupCodes };
}

describe('a second factor', () => {
  it('asks for the code of the moment beside the password, and for nothing less', async () => {
    const { email, secret } = await withSecondFactor();
    const first = await post('/sign-in/email', { email, password: PASSWORD });
    expect(await first.json()).toMatchObject({ twoFactorRedirect: true });
    const half = cookiesOf(first);
    // The password alone opens nothing.
    expect(await viewer(half)).toBeNull();
    expect((await post('/two-factor/verify-totp', { code: codeAt(secret, Date.now() - 600_000) }, half)).status).toBe(
      401,
    );
    expect(
      (await post('/two-factor/verify-totp', { code: codeAt(secret, Date.now()) }, '')).status,
    ).toBeGreaterThanOrEqual(400);
    const second = await post('/two-factor/verify-totp', { code: codeAt(secret, Date.now()) }, half);
    expect(second.status).toBe(200);
    expect(await viewer(cookiesOf(second))).toMatchObject({ role: 'keeper', via: 'session' });
  });

  it('takes each code on paper once', async () => {
    const { email, codes } = await withSecondFactor();
    const half = async (): Promise<string> => cookiesOf(await post('/sign-in/email', { email, password: PASSWORD }));
    expect(codes.length).toBeGreaterThan(5);
    expect((await post('/two-factor/verify-backup-code', { code: codes[0] }, await half())).status).toBe(200);
    expect((await post('/two-factor/verify-backup-code', { code: codes[0] }, await half())).status).toBe(401);
    expect((await post('/two-factor/verify-backup-code', { code: codes[1] }, await half())).status).toBe(200);
  });

  it('goes with the phone: an owner’s link takes it off, and so does its person with the password', async () => {
    const { email, id } = await withSecondFactor();
    const entered = await post('/entry', {
      key: await armEntry(shelf.app.auth, { kind: 'join', userId: id }, 1),
      password: PASSWORD,
    });
    expect(entered.status).toBe(200);
    expect(await (await post('/sign-in/email', { email, password: PASSWORD })).json()).not.toHaveProperty(
      'twoFactorRedirect',
    );
    const again = await withSecondFactor();
    const half = cookiesOf(await post('/sign-in/email', { email: again.email, password: PASSWORD }));
    const inside = cookiesOf(await post('/two-factor/verify-totp', { code: codeAt(again.secret, Date.now()) }, half));
    expect((await post('/two-factor/disable', { password: 'wrong' }, inside)).status).toBe(400);
    expect((await post('/two-factor/disable', { password: PASSWORD }, inside)).status).toBe(200);
    expect(await (await post('/sign-in/email', { email: again.email, password: PASSWORD })).json()).not.toHaveProperty(
      'twoFactorRedirect',
    );
  });

  it('stops guessing at it', async () => {
    const { email } = await withSecondFactor();
    const half = cookiesOf(await post('/sign-in/email', { email, password: PASSWORD }));
    const statuses: number[] = [];
    for (let i = 0; i < 24; i++)
      statuses.push((await post('/two-factor/verify-totp', { code: String(100_000 + i) }, half)).status);
    expect(statuses.at(-1)).toBe(429);
  });
});
