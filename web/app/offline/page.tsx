import type { ReactNode } from 'react';

export const metadata = { title: 'No network' };

/** Shown where the network is away and the page was not kept. It knows nothing of anybody. */
export default function OfflinePage(): ReactNode {
  return (
    <main className="grid min-h-dvh content-center gap-4 bg-ground p-6 text-ink">
      <h1 className="text-2xl font-semibold">No network, and this page was not kept here</h1>
      <p className="max-w-[560px] text-lg">
        The shelf, the plans under way, their units and the lamps of those units are kept on this device for a day after
        they were opened. Go back, or open the shelf from here.
      </p>
      <p className="max-w-[560px] text-lg">
        Nothing that was confirmed here is lost: it is sent when the network is back.
      </p>
      {/* A whole page, so that the worker is asked for it. */}
      <p>
        {}
        <a href="/" className="text-lg text-action underline">
          Open the shelf
        </a>
      </p>
    </main>
  );
}
