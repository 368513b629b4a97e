import { OWNER_HEADER } from './ownerMark';

/** When a page was fetched, as the worker writes it down. */
const FETCHED = 'x-shelf-fetched';
const DAY_MS = 24 * 3600e3;

/** The pages of one build that are kept on a device, of one person at a time, for a day. */
export interface KeptPages {
  /** Keeps a page as it came, if it is one that may be; a page of another, or of nobody, empties what is kept. */
  readonly keep: (path: string, response: Response) => Promise<void>;
  /** The page as it was, at this very address or at the same place with another question; none that is older than a day. */
  readonly find: (path: string) => Promise<Response | undefined>;
  /** Forgets every page. */
  readonly forget: () => Promise<void>;
  /** True where the page was kept within so many milliseconds. */
  readonly isFresh: (path: string, within: number) => Promise<boolean>;
}

/**
 * @param open opens the cache
 * @param now milliseconds
 */
export function keptPages(open: () => Promise<Cache>, now: () => number): KeptPages {
  const ageOf = (response: Response): number => now() - Number(response.headers.get(FETCHED) ?? 0);
  const forget = async (): Promise<void> => {
    const cache = await open();
    for (const request of await cache.keys()) await cache.delete(request, { ignoreVary: true });
  };
  const ownerNow = async (): Promise<string | undefined> => {
    const cache = await open();
    const [any] = await cache.keys();
    return any && ((await cache.match(any, { ignoreVary: true }))?.headers.get(OWNER_HEADER) ?? undefined);
  };
  return {
    forget,
    async keep(path, response) {
      const owner = response.headers.get(OWNER_HEADER);
      // Sent to the sign-in: whoever was here is not any more.
      if (response.redirected || owner === null) return forget();
      if (
        response.status !== 200 ||
        response.type !== 'basic' ||
        !(response.headers.get('content-type') ?? '').includes('text/html')
      )
        return;
      const before = await ownerNow();
      if (before !== undefined && before !== owner) await forget();
      const headers = new Headers(response.headers);
      headers.set(FETCHED, String(now()));
      await (await open()).put(path, new Response(await response.clone().blob(), { status: 200, headers }));
    },
    async find(path) {
      const cache = await open();
      const found =
        (await cache.match(path, { ignoreVary: true })) ??
        (await cache.match(path, { ignoreVary: true, ignoreSearch: true }));
      return found && ageOf(found) <= DAY_MS ? found : undefined;
    },
    async isFresh(path, within) {
      const found = await (await open()).match(path, { ignoreVary: true });
      return found !== undefined && ageOf(found) <= within;
    },
  };
}
