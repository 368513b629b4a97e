import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import { demoDataFolder, startShelf, type StartedShelf } from './startShelf';

/** Compressed script a first visit waits for, at most (kB): all that the page's own HTML names. What comes later, when it is seen or wanted, is not in it. */
const BUDGETS = { shelf: 150, unit: 190, plan: 170, bench: 150, drives: 165, upkeep: 150, settings: 205 } as const;

const data = await demoDataFolder();
let shelf: StartedShelf;
let cookie: string;

beforeAll(async () => {
  shelf = await startShelf({ data: data.path });
  cookie = await enter(shelf);
});
afterAll(async () => {
  await shelf.stop();
  data.remove();
});

async function enter({ link, base }: StartedShelf): Promise<string> {
  const key = new URL(link).searchParams.get('key');
  const entered = await fetch(`${base}/api/auth/entry`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: base },
    body: JSON.stringify({ key }),
  });
  return (entered.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
}

const page = async (path: string): Promise<string> => (await fetch(shelf.base + path, { headers: { cookie } })).text();

/** The scripts a page names, each once, but what only a browser takes that knows no modules. */
function scriptsOf(html: string): string[] {
  const old = /<script[^>]* noModule[^>]*>/i.exec(html)?.[0] ?? 'none';
  return [...new Set(html.match(/\/_next\/static\/chunks\/[\w.~-]+\.js/g))].filter((script) => !old.includes(script));
}

it('keeps each main page within its budget of compressed script', async () => {
  const { units } = (await (await fetch(`${shelf.base}/api/v1/units`, { headers: { cookie } })).json()) as {
    units: { id: string }[];
  };
  const unit = `/units/${units[0]?.id ?? ''}`;
  const plan = /\/units\/[\w-]+\/plans\/[\w-]+/.exec(await page('/plans'))?.[0] ?? '';
  const paths: Record<keyof typeof BUDGETS, string> = {
    shelf: '/',
    unit,
    plan,
    bench: '/bench',
    drives: '/drives',
    upkeep: '/upkeep',
    settings: '/settings',
  };
  const weighed: Record<string, number> = {};
  for (const [name, path] of Object.entries(paths)) {
    const scripts = scriptsOf(await page(path));
    expect(scripts.length).toBeGreaterThan(4);
    const sizes = await Promise.all(
      scripts.map(async (script) => {
        const answer = await fetch(shelf.base + script, { method: 'HEAD', headers: { 'accept-encoding': 'br' } });
        return [
          answer.headers.get('content-encoding') ?? 'as it is',
          Number(answer.headers.get('content-length')),
        ] as const;
      }),
    );
    // All but the smallest come compressed.
    expect(sizes.filter(([how, size]) => how !== 'br' && size > 1000)).toEqual([]);
    weighed[name] = sizes.reduce((sum, [, size]) => sum + size, 0) / 1000;
  }
  console.log(weighed);
  expect(Object.entries(BUDGETS).filter(([name, most]) => (weighed[name] ?? Infinity) > most)).toEqual([]);
  expect(Math.min(...Object.values(weighed))).toBeGreaterThan(80);
});

it('sends pages, answers and scripts compressed, and as they are where that is asked for', async () => {
  const script = scriptsOf(await page('/'))[0] as string;
  const ask = async (of: StartedShelf, path: string, as: string): Promise<string | null> =>
    (await fetch(of.base + path, { headers: { cookie: as, 'accept-encoding': 'gzip, br' } })).headers.get(
      'content-encoding',
    );
  expect([
    await ask(shelf, '/', cookie),
    await ask(shelf, '/api/v1/units', cookie),
    await ask(shelf, script, cookie),
  ]).toEqual(['gzip', 'gzip', 'br']);
  // What is kept compressed is the same.
  const built = join('web/.next', script.replace('/_next/', ''));
  expect(brotliDecompressSync(readFileSync(`${built}.br`)).equals(readFileSync(built))).toBe(true);

  await shelf.stop();
  shelf = await startShelf({ data: data.path, args: ['--demo', '--no-compression'] });
  const again = await enter(shelf);
  expect([
    await ask(shelf, '/', again),
    await ask(shelf, '/api/v1/units', again),
    await ask(shelf, script, again),
  ]).toEqual([null, null, null]);
});
