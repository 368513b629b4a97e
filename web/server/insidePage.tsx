import 'server-only';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { cache, type ReactNode } from 'react';
import { Frame } from '~/web/parts/frame/Frame';
import { PageFrame } from '~/web/parts/frame/PageFrame';
import type { Role } from '~/schemas/access';
import type { App } from '~/service/app';
import { mayAct, viewerOf, type Viewer } from '~/service/access/viewer';
import { readPlacesToKeep } from '~/service/plans/readPlacesToKeep';
import { readWaits } from '~/service/units/readShelf';
import { NotForYou } from '~/web/parts/frame/NotForYou';
import { app } from './app';

interface Visit {
  readonly app: App;
  readonly viewer: Viewer;
  readonly params: Readonly<Record<string, string>>;
  readonly query: Readonly<Record<string, string | string[] | undefined>>;
  readonly now: Date;
}

interface PageProps {
  readonly params: Promise<Record<string, string>>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** Who is there, asked once a request; whoever has no session goes to the sign-in. */
const viewerInside = cache(async (): Promise<Viewer> => {
  const viewer = await viewerOf(app(), new Headers(await headers()));
  if (!viewer || viewer.via !== 'session') redirect('/sign-in');
  return viewer;
});

/** What stays around every page inside while one follows another. It shows nothing of the ledgers: a page is asked anew, this is not. */
export async function insideLayout({ children }: { readonly children: ReactNode }): Promise<ReactNode> {
  const viewer = await viewerInside();
  return (
    <Frame app={app()} viewer={viewer}>
      {children}
    </Frame>
  );
}

/**
 * Makes a page that only people inside see. Every page but the sign-in is made this way, so that none can be open by
 * oversight: the session is looked up, the role compared, and what is being waited for put below.
 *
 * @param needs the least role that may see it
 */
export function insidePage(needs: Role, render: (visit: Visit) => Promise<ReactNode>) {
  return async function InsidePage({ params, searchParams }: PageProps): Promise<ReactNode> {
    const [viewer, now] = await Promise.all([viewerInside(), app().clock.now()]);
    // What stands around a page is read while the page is: neither waits for the other.
    const [content, waits, keep] = await Promise.all([
      mayAct(viewer, needs) ? (
        render({ app: app(), viewer, params: await params, query: await searchParams, now })
      ) : (
        <NotForYou needs={needs} />
      ),
      readWaits(app()),
      readPlacesToKeep(app()),
    ]);
    return (
      <PageFrame waits={waits} keep={keep} now={now}>
        {content}
      </PageFrame>
    );
  };
}
