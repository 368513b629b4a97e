import type { ReactNode } from 'react';
import type { Wait } from '~/service/units/readShelf';
import { Offline } from './Offline';
import { WaitingStrip } from './WaitingStrip';

/** What every page inside brings with it, as of the moment it was made: whether the server is reached, and what is being waited for. */
export function PageFrame({
  waits,
  keep,
  now,
  children,
}: {
  readonly waits: readonly Wait[];
  /** Pages to keep for when there is no network. */
  readonly keep: readonly string[];
  readonly now: Date;
  readonly children: ReactNode;
}): ReactNode {
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
