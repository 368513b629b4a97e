import { keptPages } from './keptPages';
import { OWNER_HEADER, ownerMark } from './ownerMark';

/** A cache as browsers have it, as far as kept pages ask it. */
function cacheOf(): Cache {
  const kept = new Map<string, Response>();
  const without = (path: string): string => path.split('?')[0] ?? '';
  const key = (of: RequestInfo | URL): string => (typeof of === 'string' ? of : of instanceof URL ? of.href : of.url);
  return {
    keys: () => Promise.resolve([...kept.keys()].map((path) => ({ url: path }) as Request)),
    put: (of, response) => Promise.resolve(void kept.set(key(of), response)),
    delete: (of) => Promise.resolve(kept.delete(key(of))),
    match: (of, options) =>
      Promise.resolve(
        (
          kept.get(key(of)) ??
          (options?.ignoreSearch === true
            ? [...kept].find(([path]) => without(path) === without(key(of)))?.[1]
            : undefined)
        )?.clone(),
      ),
  } satisfies Partial<Cache> as unknown as Cache;
}

const HOUR = 3600e3;
let time = 0;
let pages: ReturnType<typeof keptPages>;
beforeEach(() => {
  time = 1e12;
  const cache = cacheOf();
  pages = keptPages(
    () => Promise.resolve(cache),
    () => time,
  );
});

function page(
  text: string,
  owner: string | null = 'a',
  more: { readonly status?: number; readonly redirected?: boolean; readonly type?: string } = {},
): Response {
  const headers = { 'content-type': 'text/html; charset=utf-8', ...(owner === null ? {} : { [OWNER_HEADER]: owner }) };
  const response = new Response(text, { status: more.status ?? 200, headers });
  Object.defineProperty(response, 'type', { value: more.type ?? 'basic' });
  Object.defineProperty(response, 'redirected', { value: more.redirected ?? false });
  return response;
}
const found = async (path: string): Promise<string | undefined> => (await pages.find(path))?.text();

it('keeps a page as it came for a day, found at its address and at the same place with another question', async () => {
  await pages.keep('/units/1?bay=2', page('unit 1'));
  expect([await found('/units/1?bay=2'), await found('/units/1'), await found('/units/2')]).toEqual([
    'unit 1',
    'unit 1',
    undefined,
  ]);
  time += 24 * HOUR;
  expect(await found('/units/1')).toBe('unit 1');
  time += HOUR;
  expect(await found('/units/1')).toBeUndefined();
});

it('keeps no fault and nothing that is no page', async () => {
  await pages.keep('/a', page('gone', 'a', { status: 404 }));
  await pages.keep('/b', page('error', 'a', { status: 500 }));
  await pages.keep('/c', page('other', 'a', { type: 'opaque' }));
  expect([await found('/a'), await found('/b'), await found('/c')]).toEqual([undefined, undefined, undefined]);
});

it('shows nobody the pages of another: they go with the next person, with a sign-in page, and on signing out', async () => {
  const mine = async (): Promise<void> => pages.keep('/', page('shelf of a'));
  await mine();
  await pages.keep('/units/1', page('unit of b', 'b'));
  expect([await found('/'), await found('/units/1')]).toEqual([undefined, 'unit of b']);
  await mine();
  await pages.keep('/drives', page('sign in', null));
  expect(await found('/')).toBeUndefined();
  await mine();
  await pages.keep('/drives', page('sign in', 'a', { redirected: true }));
  expect(await found('/')).toBeUndefined();
  await mine();
  await pages.forget();
  expect(await found('/')).toBeUndefined();
});

it('knows what was kept lately', async () => {
  await pages.keep('/', page('shelf'));
  time += HOUR;
  expect([
    await pages.isFresh('/', 2 * HOUR),
    await pages.isFresh('/', HOUR / 2),
    await pages.isFresh('/x', 2 * HOUR),
  ]).toEqual([true, false, false]);
});

it('marks a session so that others differ and none is told', async () => {
  const [a, b] = [await ownerMark('session-a'), await ownerMark('session-b')];
  expect(a).toMatch(/^[0-9a-f]{24}$/);
  expect([a === b, a === (await ownerMark('session-a')), a.includes('session')]).toEqual([false, true, false]);
});
