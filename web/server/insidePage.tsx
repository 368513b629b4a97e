import 'server-only';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { Frame } from '~/web/parts/frame/Frame';
import type { Role } from '~/schemas/access';
import type { App } from '~/service/app';
import { mayAct, viewerOf, type Viewer } from '~/service/access/viewer';
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

/**
 * Makes a page that only people inside see. Every page but the sign-in is made this way, so that none can be open by
 * oversight: the session is looked up, the role compared, and the frame put around.
 *
 * @param needs the least role that may see it
 */
export function insidePage(needs: Role, render: (visit: Visit) => Promise<ReactNode>) {
  return async function InsidePage({ params, searchParams }: PageProps): Promise<ReactNode> {
    const viewer = await viewerOf(app(), new Headers(await headers()));
    if (!viewer || viewer.via !== 'session') redirect('/sign-in');
    const now = await app().clock.now();
    const content = mayAct(viewer, needs) ? (
      await render({ app: app(), viewer, params: await params, query: await searchParams, now })
    ) : (
      <NotForYou needs={needs} />
    );
    return (
      <Frame app={app()} viewer={viewer} now={now}>
        {content}
      </Frame>
    );
  };
}
