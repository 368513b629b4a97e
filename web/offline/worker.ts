import { Serwist, type PrecacheEntry, type RouteHandlerCallbackOptions, type SerwistGlobalConfig } from 'serwist';
import { keptPages } from './keptPages';

declare global {
  interface WorkerGlobalScope extends SerwistGlobalConfig {
    __SW_MANIFEST: (PrecacheEntry | string)[] | undefined;
    readonly SHELF_BUILD: string;
  }
}
declare const self: ServiceWorkerGlobalScope;

/**
 * Opens the application where the network is away: the frame and its parts from the start, pages as they were last seen.
 * A page always comes from the server where that answers; what is asked of the interface is never answered from here.
 */

const PREFIX = 'shelf-pages-';
// The pages of another build ask for parts that are not there any more.
const NAME = PREFIX + self.SHELF_BUILD;
const pages = keptPages(() => caches.open(NAME), Date.now);
/** A server that has not answered by then is not reached from a cupboard with one bar. */
const PATIENCE_MS = 8000;
/** A page that was kept within that time is not fetched again only to keep it. */
const FRESH_MS = 30 * 60_000;

const serwist = new Serwist({
  precacheEntries: self.__SW_MANIFEST ?? [],
  skipWaiting: true,
  clientsClaim: true,
  navigationPreload: false,
  disableDevLogs: true,
});

function pathOf(url: URL): string {
  return url.pathname + url.search;
}

/** A page, from the server or as it was. */
async function page({ request, url, event }: RouteHandlerCallbackOptions): Promise<Response> {
  try {
    const response = await withPatience(fetch(request));
    // Copied before it goes to the page, written while the page is read.
    (event as ExtendableEvent).waitUntil(pages.keep(pathOf(url), response.clone()));
    return response;
  } catch {
    return (await pages.find(pathOf(url))) ?? (await serwist.matchPrecache('/offline')) ?? Response.error();
  }
}

function withPatience(answer: Promise<Response>): Promise<Response> {
  return Promise.race([
    answer,
    new Promise<never>((_, reject) => setTimeout(() => reject(new Error('no answer')), PATIENCE_MS)),
  ]);
}

serwist.registerCapture(
  ({ request, url, sameOrigin }) =>
    sameOrigin &&
    request.mode === 'navigate' &&
    !url.pathname.startsWith('/api/') &&
    !url.pathname.startsWith('/calendar/'),
  page,
);
// A worker of the page learns its parts from the end of its address, which a kept answer has lost. It is answered here,
// before anything else answers what is kept from the start.
self.addEventListener('fetch', (event) => {
  const { request } = event;
  if (request.destination !== 'worker' || new URL(request.url).origin !== self.location.origin) return;
  event.stopImmediatePropagation();
  event.respondWith(anew(request));
});
serwist.addEventListeners();

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(
          names.filter((name) => name.startsWith(PREFIX) && name !== NAME).map((name) => caches.delete(name)),
        ),
      ),
  );
});

type Said =
  | {
      readonly kind: 'keep';
      readonly paths: readonly string[];
      /** What was kept is an older state of it, however lately: it is fetched anew. */
      readonly isChanged?: boolean;
    }
  | { readonly kind: 'forget' };

self.addEventListener('message', (event) => {
  const said = event.data as Said;
  if (said.kind === 'forget') event.waitUntil(pages.forget());
  if (said.kind === 'keep') event.waitUntil(keepAll(said.paths, said.isChanged === true));
});

/** One after another: whoever is working goes first. */
async function keepAll(paths: readonly string[], isChanged: boolean): Promise<void> {
  for (const path of paths) {
    const url = new URL(path, self.location.origin);
    if (url.origin !== self.location.origin) continue;
    if (!isChanged && (await pages.isFresh(pathOf(url), FRESH_MS))) continue;
    try {
      await pages.keep(pathOf(url), await fetch(url, { credentials: 'same-origin', headers: { accept: 'text/html' } }));
    } catch {
      return;
    }
  }
}

/** A kept answer as one of this very request. */
async function anew(request: Request): Promise<Response> {
  const [address] = request.url.split('#') as [string];
  const kept = (await serwist.matchPrecache(address)) ?? (await fetch(request));
  return new Response(kept.body, { status: kept.status, headers: kept.headers });
}
