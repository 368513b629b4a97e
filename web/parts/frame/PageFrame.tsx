import type { ReactNode } from 'react';
import type { App } from '~/service/app';
import { readPlacesToKeep } from '~/service/plans/readPlacesToKeep';
import { readWaits } from '~/service/units/readShelf';
import { Offline } from './Offline';
import { WaitingStrip } from './WaitingStrip';

/** What every page inside brings with it, as of the moment it was made: whether the server is reached, and what is being waited for. */
export async function PageFrame({
  app,
  now,
  children,
}: {
  readonly app: App;
  readonly now: Date;
  readonly children: ReactNode;
}): Promise<ReactNode> {
  const [waits, keep] = await Promise.all([readWaits(app), readPlacesToKeep(app)]);
  return (
    <>
      <Offline madeAt={now.toISOString()} keep={keep} />
      <main id="content" className="relative min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
        {children}
      </main>
      <WaitingStrip waits={waits} />
    </>
  );
}
