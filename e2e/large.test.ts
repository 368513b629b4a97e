import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { text } from 'node:stream/consumers';
import { newDataFolder, startShelf, type StartedShelf } from './startShelf';

const MB = 1_000_000;
/** More than the memory of the whole may be. */
const LARGE = 600 * MB;
const WHOLE = 1000 * MB;

/** The most memory each process of a tree ever held, bytes, by its number: as the system counts it, not as one looked. */
function mostHeld(root: number): Map<number, number> {
  const parents = new Map<number, number>();
  const held = new Map<number, number>();
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name)))
    try {
      const status = readFileSync(`/proc/${pid}/status`, 'utf8');
      const of = (name: string): number => Number(new RegExp(`^${name}:\\s+(\\d+)`, 'm').exec(status)?.[1] ?? 0);
      parents.set(Number(pid), of('PPid'));
      held.set(Number(pid), of('VmHWM') * 1024);
    } catch {
      // It ended meanwhile.
    }
  const isIn = (pid: number): boolean => pid === root || (parents.has(pid) && isIn(parents.get(pid) as number));
  return new Map([...held].filter(([pid]) => isIn(pid)));
}

interface Sent {
  readonly status: number | null;
  readonly body: string;
  readonly bytes: number;
}

/** Sends as much as is taken, and hears what is said to it: `null` where the connection ended without a word. */
function send(
  shelf: StartedShelf,
  path: string,
  { bytes = LARGE, says, headers = {} }: { bytes?: number; says?: number; headers?: Record<string, string> },
): Promise<Sent> {
  return new Promise((resolve) => {
    const asked = request(new URL(path, shelf.base), {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        origin: shelf.base,
        ...(says === undefined ? {} : { 'content-length': String(says) }),
        ...headers,
      },
    });
    const part = Buffer.alloc(64 * 1024, '[');
    let sent = 0;
    let isOver = false;
    const end = (status: number | null, body: string): void => {
      if (!isOver) resolve({ status, body, bytes: sent });
      isOver = true;
    };
    asked.on('response', (answer) => {
      void text(answer).then(
        (body) => {
          end(answer.statusCode ?? null, body);
          asked.destroy();
        },
        () => end(answer.statusCode ?? null, ''),
      );
    });
    asked.on('error', () => end(null, ''));
    asked.on('close', () => end(null, ''));
    const more = (): void => {
      while (!isOver && sent < bytes) {
        const next = part.subarray(0, Math.min(part.length, bytes - sent));
        sent += next.length;
        if (!asked.write(next)) return void asked.once('drain', more);
      }
      if (!isOver) asked.end();
    };
    more();
  });
}

const data = newDataFolder();
let shelf: StartedShelf;
let token: string;

beforeAll(async () => {
  shelf = await startShelf({ data: data.path });
  const key = new URL(shelf.link).searchParams.get('key');
  const entered = await fetch(`${shelf.base}/api/auth/entry`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: shelf.base },
    body: JSON.stringify({ key }),
  });
  const cookie = (entered.headers.getSetCookie() ?? []).map((one) => one.replace(/;.*$/, '')).join('; ');
  const made = await fetch(`${shelf.base}/api/v1/tokens`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: shelf.base, cookie },
    body: JSON.stringify({ name: 'For a test', scopes: ['read', 'write'] }),
  });
  token = ((await made.json()) as { token: string }).token;
});

afterAll(async () => {
  await shelf.stop();
  data.remove();
});

it('takes no more of a stranger than a sign-in, whatever the length says, and holds none of it', async () => {
  const root = shelf.process.pid as number;
  const before = mostHeld(root);
  const small = await send(shelf, '/api/auth/sign-in/email', { bytes: 60_000 });
  expect(small.status).toBeGreaterThanOrEqual(400);
  expect(small.status).not.toBe(413);
  for (const path of ['/api/auth/sign-in/email', '/api/v1/units', '/sign-in', '/told/nobody', '/', '/api/health'])
    for (const says of [undefined, LARGE]) {
      const sent = await Promise.all(Array.from({ length: 4 }, () => send(shelf, path, { ...(says ? { says } : {}) })));
      expect(sent.map(({ status }) => status)).toEqual([413, 413, 413, 413]);
      expect(sent[0]?.body).toMatch(/At most|at most/);
      for (const { bytes } of sent) expect(bytes).toBeLessThan(LARGE / 4);
    }
  // Who says who they are is asked for it before anything is read.
  const claimed = await Promise.all(
    [{ authorization: 'Bearer shelf_made-up' }, { cookie: 'patient-shelf.session_token=made.up' }].map((headers) =>
      send(shelf, '/api/v1/import', { headers }),
    ),
  );
  expect(claimed.map(({ status }) => status)).toEqual([401, 401]);
  const after = mostHeld(root);
  expect([...after.keys()].filter((pid) => !before.has(pid) && (after.get(pid) as number) > 300 * MB)).toEqual([]);
  expect([...after.values()].reduce((sum, one) => sum + one, 0)).toBeLessThan(WHOLE);
});

it('takes no more of a person than the operation takes', async () => {
  expect(token).not.toBe('');
  const root = shelf.process.pid as number;
  const before = mostHeld(root);
  const headers = { authorization: `Bearer ${token}` };
  const sent = await Promise.all([
    send(shelf, '/api/v1/units', { headers }),
    send(shelf, '/api/v1/units', { headers, says: LARGE }),
    send(shelf, '/api/v1/letters', { headers }),
  ]);
  expect(sent.map(({ status }) => status)).toEqual([413, 413, 413]);
  const grown = [...mostHeld(root)].map(([pid, held]) => held - (before.get(pid) ?? 0));
  expect(Math.max(...grown)).toBeLessThan(150 * MB);
  // It goes on.
  expect((await fetch(`${shelf.base}/api/v1/units`, { headers })).status).toBe(200);
});
