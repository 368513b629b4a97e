import type { Browser, Page } from 'puppeteer-core';
import { seriousFaults } from './axe';
import { choose, key, named, openBrowser, openPage, press, typeOver } from './browser';
import { codeOfPhone } from '../service/testing/codeOfPhone';
import { newDataFolder, startShelf, type StartedShelf } from './startShelf';

const data = newDataFolder();
let shelf: StartedShelf;
let browser: Browser;
let owner: Page;

beforeAll(async () => {
  shelf = await startShelf({ data: data.path, args: [] });
  browser = await openBrowser();
  owner = await openPage(browser);
});
afterAll(async () => {
  await browser.close();
  await shelf.stop();
  data.remove();
});

const mainText = (page: Page): Promise<string> => page.$eval('main', (main) => main.innerText);

it('asks for the owner’s account on a first start, and has no other', async () => {
  expect(shelf.link).toMatch(/\/enter\?key=[\w-]{43}$/);
  await owner.goto(shelf.link);
  await owner.waitForSelector('input[name=name]');
  expect(await seriousFaults(owner)).toEqual([]);
  await owner.type('input[name=name]', 'Ida');
  await owner.type('input[name=email]', 'ida@example.org');
  await owner.type('input[name=password]', 'nine in the evening');
  await press(owner, 'Make this shelf mine');
  await owner.waitForFunction(() => location.pathname === '/');
  await owner.waitForSelector('main#content');
  expect(await mainText(owner)).toContain('The shelf is empty');
});

it('turns away everybody without a session, from every page and from the interface', async () => {
  const paths = ['/', '/drives', '/bench', '/settings', '/units/00000000-0000-4000-8000-000000000000', '/nothing'];
  for (const path of paths) {
    const response = await fetch(shelf.base + path, { redirect: 'manual' });
    expect([path, response.status, response.headers.get('location')?.split('?')[0]]).toEqual([path, 307, '/sign-in']);
    // A cookie that is none of ours gets past the first door and not past the second.
    const forged = await fetch(shelf.base + path, {
      redirect: 'manual',
      headers: { cookie: 'patient-shelf.session_token=forged.forged' },
    });
    expect([path, forged.status]).toEqual([path, path === '/nothing' ? 404 : 307]);
  }
  for (const path of ['/api/v1/units', '/api/v1/openapi.json', '/api/v1/nothing'])
    expect((await fetch(shelf.base + path)).status).toBe(401);
  expect((await fetch(`${shelf.base}/api/auth/sign-up/email`, { method: 'POST' })).status).toBe(404);
  expect(await (await fetch(`${shelf.base}/api/health`)).json()).toMatchObject({
    status: 'ok',
    database: 'ok',
    disk: 'ok',
    version: expect.stringMatching(/^\d+\.\d+\.\d+$/),
    commit: expect.stringMatching(/^[0-9a-f]{12}$/),
  });
  // Figures are for this machine; whoever is passed on to it is not, whatever is claimed.
  const figures = (headers: Record<string, string>) => fetch(`${shelf.base}/metrics`, { headers });
  const here = await figures({});
  expect([here.status, await here.text()]).toEqual([200, expect.stringMatching(/^patient_shelf_units 0$/m)]);
  expect((await figures({ 'x-forwarded-for': '10.0.0.9', 'x-shelf-direct': 'yes' })).status).toBe(401);
});

it('runs under a strict policy', async () => {
  const policy = (await fetch(`${shelf.base}/sign-in`)).headers.get('content-security-policy') ?? '';
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
  expect(policy).not.toMatch(/unsafe-eval|script-src[^;]*unsafe-inline/);
});

it('lets the owner add a reader, who comes in by a link and only looks', async () => {
  await owner.goto(`${shelf.base}/settings`);
  await owner.waitForSelector('section[aria-label=People] input[name=name]');
  await owner.type('section[aria-label=People] input[name=name]', 'Rolf');
  await owner.type('section[aria-label=People] input[name=email]', 'rolf@example.org');
  await choose(owner, 'Role', 'reader');
  await press(owner, 'Add');
  const link = await owner
    .waitForSelector('[data-secret]')
    .then((secret) => secret?.evaluate((element) => (element as HTMLElement).innerText.trim()));
  const reader = await openPage(browser);
  await reader.goto(link ?? '');
  await reader.waitForSelector('input[name=password]');
  await reader.type('input[name=password]', 'only looking here');
  await press(reader, 'Set the password and enter');
  await reader.waitForFunction(() => location.pathname === '/');

  await reader.goto(`${shelf.base}/settings`);
  await reader.waitForSelector('section[aria-label=Tokens]');
  expect(await reader.$('section[aria-label=People]')).toBeNull();
  await reader.goto(`${shelf.base}/bench`);
  await press(reader, 'Use the sample');
  await press(reader, 'Use these 5 drives');
  await reader.waitForSelector('button[data-layout]');
  expect(await mainText(reader)).not.toContain('Put it on the shelf');
  const status = await reader.evaluate(() =>
    fetch('/api/v1/units', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' }).then(
      (response) => response.status,
    ),
  );
  expect(status).toBe(403);

  // The owner ends the reader's sessions: the next page asks to sign in.
  await owner.reload();
  await owner.waitForFunction(() => document.body.innerText.includes('Rolf'));
  await key(owner, '::-p-xpath(//tr[contains(., "Rolf")]/td[3]//button)');
  await owner.waitForFunction(() => document.body.innerText.includes('All sessions of Rolf are ended.'));
  await reader.goto(`${shelf.base}/bench`);
  await reader.waitForFunction(() => location.pathname === '/sign-in');
  expect(await seriousFaults(reader)).toEqual([]);
  await reader.type('input[name=email]', 'rolf@example.org');
  await reader.type('input[name=password]', 'not the password');
  await press(reader, 'Sign in');
  await reader.waitForSelector('[role=alert]');
  expect(await mainText(reader)).toContain('do not belong together');
  await typeOver(reader, 'input[name=password]', 'only looking here');
  await press(reader, 'Sign in');
  await reader.waitForFunction(() => location.pathname === '/');
});

it('says in which time zone people work, and refuses one that is none', async () => {
  await owner.goto(`${shelf.base}/settings`);
  const zone = 'section[aria-label=Organisation] input[name=timeZone]';
  await owner.waitForSelector(zone);
  if (
    (await owner.$eval(
      'section[aria-label=Organisation] input[name=name]',
      (input) => (input as HTMLInputElement).value,
    )) === ''
  )
    await owner.type('section[aria-label=Organisation] input[name=name]', 'Marrowfen');
  await typeOver(owner, zone, 'Nowhere');
  expect(await owner.$$eval('#time-zones option', (zones) => zones.length)).toBeGreaterThan(300);
  await key(owner, 'section[aria-label=Organisation] button[type=submit]');
  await owner.waitForFunction(() => document.body.innerText.includes('No time zone is called Nowhere'));
  await typeOver(owner, zone, 'Europe/Berlin');
  await key(owner, 'section[aria-label=Organisation] button[type=submit]');
  await owner.waitForFunction(() => document.body.innerText.includes('Saved.'));
  const kept = async (): Promise<string | undefined> => {
    await owner.reload();
    const input = await owner.waitForSelector(zone);
    return input?.evaluate((one) => (one as HTMLInputElement).value);
  };
  expect(await kept()).toBe('Europe/Berlin');
  await typeOver(owner, zone, '');
  await key(owner, 'section[aria-label=Organisation] button[type=submit]');
  await owner.waitForFunction(() => document.body.innerText.includes('Saved.'));
  expect(await kept()).toBe('');
  expect(await seriousFaults(owner)).toEqual([]);
});

it('makes a token that works until it is revoked', async () => {
  await owner.goto(`${shelf.base}/settings`);
  await owner.waitForSelector('section[aria-label=Tokens]');
  await owner.type('section[aria-label=Tokens] input[name=name]', 'a script');
  await press(owner, 'Make a token');
  const token = await owner
    .waitForSelector('section[aria-label=Tokens] [data-secret]')
    .then((secret) => secret?.evaluate((element) => (element as HTMLElement).innerText.trim()));
  const ask = () =>
    fetch(`${shelf.base}/api/v1/layouts`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token ?? ''}`, 'content-type': 'application/json' },
      body: JSON.stringify({ profile: 'plain', drives: [{ bay: '1', label: '8 TB' }], schemes: ['separate'] }),
    });
  expect((await ask()).status).toBe(200);
  await press(owner, 'Revoke a script');
  await owner.waitForFunction(() => document.body.innerText.includes('is revoked'));
  expect((await ask()).status).toBe(401);
});

it('keeps to its dark theme over a reload', async () => {
  await key(owner, named('dark, for a dim machine room', 'radio'));
  await owner.reload();
  expect(await owner.$eval('html', (html) => html.dataset['theme'])).toBe('dark');
});

it('asks for a code of the phone once that is set up, and takes one from paper', async () => {
  const box = '[data-second-factor]';
  await owner.goto(`${shelf.base}/settings`);
  await owner.waitForSelector(`${box} input[name=password]`);
  await owner.type(`${box} input[name=password]`, 'nine in the evening');
  await press(owner, 'Set it up');
  const secret = await owner
    .waitForSelector(`${box} p code`)
    .then((code) => code?.evaluate((element) => element.textContent ?? ''));
  expect(await owner.$eval(`${box} img`, (picture) => (picture as HTMLImageElement).naturalWidth)).toBeGreaterThan(100);
  expect(await seriousFaults(owner)).toEqual([]);
  await owner.type(`${box} input[name=code]`, codeOfPhone(secret ?? '', Date.now()));
  await press(owner, 'Switch it on');
  const paper = await owner
    .waitForSelector(`${box} [data-secret]`)
    .then((kept) => kept?.evaluate((element) => (element as HTMLElement).innerText.trim().split(/\s+/)));
  await press(owner, 'Sign out');
  const signIn = async (code: string): Promise<void> => {
    await owner.waitForFunction(() => location.pathname === '/sign-in');
    await owner.waitForSelector('input[name=email]');
    await owner.type('input[name=email]', 'ida@example.org');
    await owner.type('input[name=password]', 'nine in the evening');
    await press(owner, 'Sign in');
    await owner.waitForSelector('input[name=code]');
    await owner.type('input[name=code]', code);
    await press(owner, 'Sign in');
  };
  await signIn('00000');
  await owner.waitForSelector('[role=alert]');
  expect(await mainText(owner)).toContain('nor one of those on paper');
  await typeOver(owner, 'input[name=code]', codeOfPhone(secret ?? '', Date.now()));
  await press(owner, 'Sign in');
  await owner.waitForFunction(() => location.pathname === '/');
  await owner.goto(`${shelf.base}/settings`);
  await press(owner, 'Sign out');
  await signIn(paper?.[0] ?? '');
  await owner.waitForFunction(() => location.pathname === '/');
  await owner.goto(`${shelf.base}/settings`);
  await owner.waitForSelector(`${box} input[name=password]`);
  await owner.type(`${box} input[name=password]`, 'nine in the evening');
  await press(owner, 'Switch it off');
  await owner.waitForFunction(() => document.body.innerText.includes('The second factor is off'));
});

it('gives papers out under a policy of their own: they run nothing and reach nothing', async () => {
  const policy = await owner.evaluate(async () => {
    const headers = { 'content-type': 'application/json' };
    const unit = (await (
      await fetch('/api/v1/units', {
        method: 'POST',
        headers,
        body: JSON.stringify({ name: 'Teal', place: { site: 'S', room: 'R' }, profile: 'plain', bays: 2 }),
      })
    ).json()) as { id: string };
    const paper = (await (
      await fetch(`/api/v1/units/${unit.id}/papers`, {
        method: 'POST',
        headers,
        body: JSON.stringify({ name: 'a', base64: btoa('<script>alert(1)</script>') }),
      })
    ).json()) as { id: string };
    return (await fetch(`/api/v1/papers/${paper.id}`)).headers.get('content-security-policy');
  });
  expect(policy).toBe("default-src 'none'; style-src 'unsafe-inline'; sandbox");
});

it('signs out, and goes back to where one was after signing in', async () => {
  await press(owner, 'Sign out');
  await owner.waitForFunction(() => location.pathname === '/sign-in');
  await owner.goto(`${shelf.base}/drives?from=0`);
  await owner.waitForFunction(() => location.pathname === '/sign-in');
  await owner.type('input[name=email]', 'ida@example.org');
  await owner.type('input[name=password]', 'nine in the evening');
  await press(owner, 'Sign in');
  await owner.waitForFunction(() => location.pathname + location.search === '/drives?from=0');
});
