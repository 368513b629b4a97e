/** Simulated units as anybody starts them, for a Redfish client of their own. */
import { spawn, type ChildProcess } from 'node:child_process';
import { get } from 'node:https';
import { freePort } from '../ops/freePort';

const started: ChildProcess[] = [];
afterAll(() => {
  for (const child of started) child.kill('SIGTERM');
});

function run(args: readonly string[], env: Record<string, string> = {}): { child: ChildProcess; output: () => string } {
  const child = spawn('bin/standin', args, {
    env: { ...process.env, NODE_OPTIONS: '', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.push(child);
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Buffer) => (text += part.toString()));
  return { child, output: () => text };
}
const until = async (output: () => string, pattern: RegExp): Promise<RegExpExecArray> => {
  for (let i = 0; i < 600; i++) {
    const found = pattern.exec(output());
    if (found) return found;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`It did not say so: ${output()}`);
};
const ended = (child: ChildProcess): Promise<number | null> =>
  new Promise((resolve) => child.once('exit', (code) => resolve(code)));

it('plays one unit where the standard says, and at an address of its own, for whoever has the password', async () => {
  const port = String(await freePort());
  const { child, output } = run(['--port', port, '--units', '1', '--http'], { SHELF_STANDIN_PASSWORD: 'mine' });
  const [, url = ''] = await until(output, /^Units at (http:\/\/127\.0\.0\.1:\d+)\/$/m);
  expect(output()).not.toContain('mine');
  const authorization = `Basic ${Buffer.from('keeper:mine').toString('base64')}`;
  for (const base of ['', '/unit-1']) {
    const root = (await (await fetch(`${url}${base}/redfish/v1/`)).json()) as { Systems: { '@odata.id': string } };
    expect(root.Systems['@odata.id']).toBe('/unit-1/redfish/v1/Systems');
    expect((await fetch(`${url}${base}/redfish/v1/Chassis`)).status).toBe(401);
    expect((await fetch(`${url}${base}/redfish/v1/Chassis`, { headers: { authorization } })).status).toBe(200);
  }
  expect((await fetch(`${url}/unit-2/redfish/v1/`)).status).toBe(404);
  expect((await fetch(`${url}/panel`)).status).toBe(401);
  const code = ended(child);
  child.kill('SIGTERM');
  expect(await code).toBe(0);
});

it('speaks over TLS by itself, prints its password once, and says what is wrong with how it was started', async () => {
  const port = String(await freePort());
  const { output } = run(['--port', port, '--units', '3', '--seed', '7'], { SHELF_STANDIN_PASSWORD: '' });
  await until(output, /^Units at https:\/\/127\.0\.0\.1:\d+\/$/m);
  expect(output()).toMatch(/^User keeper, password \S{20,}$/m);
  const status = await new Promise((resolve, reject) => {
    get(`https://127.0.0.1:${port}/unit-3/redfish/v1/`, { rejectUnauthorized: false }, (response) => {
      response.resume();
      resolve(response.statusCode);
    }).on('error', reject);
  });
  expect(status).toBe(200);
  for (const [args, words] of [
    [['--port', port], /^Port \d+ is taken by another program/m],
    [[], /^Usage: bin\/standin/m],
    [['--port', 'x'], /^"x" is nothing for --port/m],
    [['--port', port, '--units', '0'], /^No unit is nothing to play/m],
    [['--port', port, '--odd'], /Usage: bin\/standin/m],
  ] as const) {
    const wrong = run(args);
    expect(await ended(wrong.child)).not.toBe(0);
    expect(wrong.output()).toMatch(words);
  }
});
