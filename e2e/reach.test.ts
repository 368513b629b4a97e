import { spawn, spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { request as askPlain } from 'node:http';
import { request as askSecure } from 'node:https';
import { join } from 'node:path';
import { connect } from 'node:tls';
import { selfSigned } from '../ops/selfSigned';
import { demoDataFolder, startShelf, type StartedShelf } from './startShelf';

/** A machine of its own: another network namespace, joined to this one by a cable. Not every machine allows one. */
const [NAMESPACE, HERE, THERE] = ['patient-shelf-test', '10.217.43.1', '10.217.43.2'];
function secondMachine(): boolean {
  const run = (...args: string[]): boolean => spawnSync('ip', args, { stdio: 'ignore' }).status === 0;
  endSecondMachine();
  return (
    run('netns', 'add', NAMESPACE) &&
    run('link', 'add', 'pst0', 'type', 'veth', 'peer', 'name', 'pst1', 'netns', NAMESPACE) &&
    run('addr', 'add', `${HERE}/30`, 'dev', 'pst0') &&
    run('link', 'set', 'pst0', 'up') &&
    run('-n', NAMESPACE, 'addr', 'add', `${THERE}/30`, 'dev', 'pst1') &&
    run('-n', NAMESPACE, 'link', 'set', 'pst1', 'up')
  );
}
function endSecondMachine(): void {
  spawnSync('ip', ['netns', 'del', NAMESPACE], { stdio: 'ignore' });
  spawnSync('ip', ['link', 'del', 'pst0'], { stdio: 'ignore' });
}

const data = await demoDataFolder();
const [certificate, key] = [join(data.path, 'shelf.pem'), join(data.path, 'shelf.key')];
const certify = (): void => selfSigned({ certificate, key }, ['DNS:shelf.example', 'IP:127.0.0.1', `IP:${HERE}`]);
const fingerprint = (port: number): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect({ host: '127.0.0.1', port, rejectUnauthorized: false }, () => {
      resolve(socket.getPeerCertificate().fingerprint256);
      socket.destroy();
    }).once('error', reject);
  });

interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly text: string;
}
const ask = (
  port: number,
  path: string,
  {
    isSecure = true,
    method = 'GET',
    headers = {},
    body,
  }: { isSecure?: boolean; method?: string; headers?: Record<string, string>; body?: string },
): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const options = { host: '127.0.0.1', port, path, method, headers, rejectUnauthorized: false };
    (isSecure ? askSecure : askPlain)(options, (answer) => {
      let text = '';
      answer.on('data', (part: Buffer) => (text += part.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
    })
      .once('error', reject)
      .end(body);
  });
const enter = (
  port: number,
  origin: string,
  given: string,
  headers: Record<string, string> = {},
  isSecure = true,
): Promise<Answer> =>
  ask(port, '/api/auth/entry', {
    isSecure,
    method: 'POST',
    headers: { origin, host: 'shelf.example', 'content-type': 'application/json', ...headers },
    body: JSON.stringify({ key: given }),
  });
const cookieOf = ({ headers }: Answer): string => String([headers['set-cookie']].flat()[0]);

let shelf: StartedShelf;
afterAll(() => {
  endSecondMachine();
  data.remove();
});

it('is reached over TLS from another machine, under the name it is given, and nothing of it goes in the clear', async () => {
  const isSecond = secondMachine();
  certify();
  const url = 'https://shelf.example';
  shelf = await startShelf({
    data: data.path,
    args: ['--demo', '--listen', '0.0.0.0', '--url', url, '--certificate', certificate, '--key', key],
    env: { SHELF_ENTRY_KEY: 'reach-key' },
  });
  expect(shelf.link).toBe(`${url}/enter?key=reach-key`);
  const { port } = shelf;
  const page = await ask(port, '/sign-in', { headers: { host: 'shelf.example' } });
  expect([page.status, page.headers['strict-transport-security']]).toEqual([200, 'max-age=31536000']);
  // Plain http is not understood at all.
  await expect(ask(port, '/api/health', { isSecure: false })).rejects.toThrow();
  // Where others can reach it, the printed key opens a page once, and no program's door.
  expect((await ask(port, '/api/v1/units', { headers: { authorization: 'Bearer reach-key' } })).status).toBe(401);

  // Pages of other names do not come in, nor do those of the address behind it.
  expect((await enter(port, 'https://elsewhere.example', 'reach-key')).status).toBe(403);
  expect((await enter(port, `http://127.0.0.1:${String(port)}`, 'reach-key')).status).toBe(403);
  const entered = await enter(port, url, 'reach-key');
  expect(entered.status).toBe(200);
  expect(cookieOf(entered)).toMatch(/^__Secure-patient-shelf\.session_token=.*; HttpOnly; Secure/);
  const cookie = cookieOf(entered).split(';')[0] ?? '';
  const inside = await ask(port, '/', { headers: { cookie, host: 'shelf.example' } });
  expect([inside.status, inside.text.includes('Heron')]).toEqual([200, true]);
  const note = (origin: string) =>
    ask(port, '/api/v1/comparisons', {
      method: 'POST',
      headers: { cookie, origin, host: 'shelf.example', 'content-type': 'application/json' },
      body: JSON.stringify({ kind: 'patient-shelf-comparison', name: 'x', sheet: 'y', address: '' }),
    });
  expect([(await note('https://elsewhere.example')).status, (await note(url)).status]).toEqual([403, 201]);
  const away = await ask(port, '/units', { headers: { host: 'shelf.example' } });
  expect([away.status, String(away.headers['location'])]).toEqual([307, expect.stringMatching(/^\/sign-in/)]);

  if (isSecond) {
    const health = `fetch('https://${HERE}:${String(port)}/api/health').then((answer) => answer.text()).then(console.log)`;
    const there = await new Promise<string>((resolve) => {
      const child = spawn('ip', ['netns', 'exec', NAMESPACE, process.execPath, '-e', health], {
        env: { ...process.env, NODE_OPTIONS: '', NODE_EXTRA_CA_CERTS: certificate },
      });
      let text = '';
      for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Buffer) => (text += part.toString()));
      child.once('close', () => resolve(text));
    });
    expect(there).toContain('"ok"');
  } else console.error('This machine allows no second network: it was asked from this one alone.');
});

it('picks up a certificate that was renewed, and keeps the old one while the new is half written', async () => {
  const before = await fingerprint(shelf.port);
  writeFileSync(certificate, 'half');
  await new Promise((resolve) => setTimeout(resolve, 6000));
  expect(await fingerprint(shelf.port)).toBe(before);
  certify();
  let now = before;
  while (now === before) {
    await new Promise((resolve) => setTimeout(resolve, 500));
    now = await fingerprint(shelf.port);
  }
  expect((await ask(shelf.port, '/api/health', {})).status).toBe(200);
  await shelf.stop();
});

it('believes a proxy in front, and nobody else, about who is at the other end', async () => {
  const url = 'https://shelf.example';
  const behind = await startShelf({
    data: data.path,
    args: ['--demo', '--behind-proxy', '--url', url],
    env: { SHELF_ENTRY_KEY: 'proxy-key' },
  });
  const page = await ask(behind.port, '/sign-in', { isSecure: false, headers: { host: 'shelf.example' } });
  expect(page.headers['strict-transport-security']).toBeDefined();
  // Whoever the proxy names last is who is asking: guesses of one do not count against another.
  const guess = (from: string) =>
    enter(
      behind.port,
      url,
      'wrong',
      { 'x-forwarded-for': `203.0.113.9, ${from}`, 'x-shelf-client': '198.51.100.1' },
      false,
    );
  let status = 0;
  for (let i = 0; i < 40 && status !== 429; i++) status = (await guess('198.51.100.7')).status;
  expect(status).toBe(429);
  expect((await guess('198.51.100.8')).status).toBe(410);
  const entered = await enter(behind.port, url, 'proxy-key', { 'x-forwarded-for': '198.51.100.8' }, false);
  expect([entered.status, cookieOf(entered)]).toEqual([200, expect.stringMatching(/^__Secure-.*Secure/)]);
  await behind.stop();

  // Without a proxy in front what is claimed counts for nothing.
  const bare = await startShelf({ data: data.path });
  const claim = (from: string) =>
    enter(bare.port, bare.base, 'wrong', { 'x-forwarded-for': from, 'x-shelf-client': from }, false);
  status = 0;
  for (let i = 0; i < 40 && status !== 429; i++) status = (await claim(`198.51.100.${String(i)}`)).status;
  expect(status).toBe(429);
  await bare.stop();
});
