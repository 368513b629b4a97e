import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { text } from 'node:stream/consumers';
import { newDataFolder, startShelf, type StartedShelf } from './startShelf';

const MB = 1_000_000;
/** More than the memory of the whole may be. */
const LARGE = 600 * MB;
const WHOLE = 1000 * MB;

/** Every process of a tree, and what a file of the system says of it. */
function readOfTree(root: number, file: string): Map<number, string> {
  const of = (pid: string, name: string): string => {
    try {
      return readFileSync(`/proc/${pid}/${name}`, 'utf8');
    } catch {
      // It ended meanwhile.
      return '';
    }
  };
  const pids = readdirSync('/proc').filter((name) => /^\d+$/.test(name));
  const parents = new Map(pids.map((pid) => [pid, /^PPid:\s+(\d+)/m.exec(of(pid, 'status'))?.[1] ?? '0']));
  const isIn = (pid: string): boolean => pid === String(root) || (parents.has(pid) && isIn(parents.get(pid) as string));
  return new Map(pids.filter(isIn).map((pid) => [Number(pid), of(pid, file)]));
}
const bytesOf = (text: string, name: string): number =>
  1024 * Number(new RegExp(`^${name}:\\s+(\\d+)`, 'm').exec(text)?.[1] ?? 0);

/** The most memory each ever held, bytes: as the system counts it, not as one happened to look. */
const mostHeld = (root: number): Map<number, number> =>
  new Map([...readOfTree(root, 'status')].map(([pid, text]) => [pid, bytesOf(text, 'VmHWM')]));

/** Those that answer. */
const answerers = (root: number): number[] =>
  [...readOfTree(root, 'cmdline')].flatMap(([pid, command]) => (command.includes('serve.mjs') ? [pid] : [])).sort();

/** What all of them hold together now; what they share counts once. */
const heldTogether = (root: number): number =>
  [...readOfTree(root, 'smaps_rollup').values()].reduce((sum, text) => sum + bytesOf(text, 'Pss'), 0);

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
    let [isOver, isAnswered] = [false, false];
    const end = (status: number | null, body: string): void => {
      if (!isOver) resolve({ status, body, bytes: sent });
      isOver = true;
    };
    asked.on('response', (answer) => {
      isAnswered = true;
      void text(answer).then(
        (body) => {
          end(answer.statusCode ?? null, body);
          asked.destroy();
        },
        () => end(answer.statusCode ?? null, ''),
      );
    });
    for (const over of ['error', 'close']) asked.on(over, () => isAnswered || end(null, ''));
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

/** The most all of them held together meanwhile, as often as one looked, and by how much the one grew most that grew most. */
async function heldMeanwhile(act: () => Promise<void>): Promise<{ readonly together: number; readonly grown: number }> {
  const root = shelf.process.pid as number;
  const before = mostHeld(root);
  const answering = answerers(root);
  let together = heldTogether(root);
  const looks = setInterval(() => (together = Math.max(together, heldTogether(root))), 100);
  await act();
  clearInterval(looks);
  const after = mostHeld(root);
  // None of those that answer has died of it.
  expect(answerers(root)).toEqual(answering);
  return { together, grown: Math.max(...[...after].map(([pid, held]) => held - (before.get(pid) ?? held))) };
}

it('takes no more of a stranger than a sign-in, whatever the length says, and holds none of it', async () => {
  const { together, grown } = await heldMeanwhile(async () => {
    const small = await send(shelf, '/api/auth/sign-in/email', { bytes: 60_000 });
    expect(small.status).toBe(400);
    for (const path of ['/api/auth/sign-in/email', '/api/v1/units', '/sign-in', '/told/nobody', '/', '/api/health'])
      for (const says of [undefined, LARGE]) {
        const sent = await Promise.all(
          Array.from({ length: 4 }, () => send(shelf, path, says === undefined ? {} : { says })),
        );
        // What is nothing to them at all is said before it has come; the rest where it becomes too much.
        for (const { status, bytes } of sent) {
          expect([path, says, [401, 404, 405, 413].includes(status ?? 0)]).toEqual([path, says, true]);
          if (says !== undefined || path.startsWith('/api/auth'))
            expect([path, says, status]).toEqual([path, says, 413]);
          expect(bytes).toBeLessThan(LARGE / 4);
        }
      }
    // Who says who they are is asked for it before anything is read.
    const claimed = await Promise.all(
      [
        ['authorization', 'Bearer shelf_made-up'],
        ['cookie', 'patient-shelf.session_token=made.up'],
      ].map(([name, value]) => send(shelf, '/api/v1/import', { headers: { [name as string]: value as string } })),
    );
    expect(claimed.map(({ status }) => status)).toEqual([401, 401]);
  });
  expect(together).toBeLessThan(WHOLE);
  expect(grown).toBeLessThan(150 * MB);
});

it('takes no more of a person than the operation takes', async () => {
  const headers = { authorization: `Bearer ${token}` };
  const { together, grown } = await heldMeanwhile(async () => {
    const sent = await Promise.all([
      send(shelf, '/api/v1/units', { headers }),
      send(shelf, '/api/v1/units', { headers, says: LARGE }),
      send(shelf, '/api/v1/letters', { headers }),
    ]);
    expect(sent.map(({ status }) => status)).toEqual([413, 413, 413]);
  });
  expect(together).toBeLessThan(WHOLE);
  expect(grown).toBeLessThan(150 * MB);
  // It goes on.
  expect((await fetch(`${shelf.base}/api/v1/units`, { headers })).status).toBe(200);
});
