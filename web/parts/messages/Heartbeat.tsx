'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { Heartbeat as Beat } from '~/service/tell/readTelling';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { Moment } from '~/web/parts/unit/Moment';

/** Whether what listens and tells is alive, and who outside notices when it is not. */
export function Heartbeat({ beat }: { readonly beat: Beat }): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { address: beat.address ?? '' },
    then: 'sent',
    sends: 'PUT /heartbeat',
    asks: ({ address }) => ({ body: { address: address.trim() === '' ? null : address.trim() } }),
    done: () => {
      tell('Saved.');
      router.refresh();
    },
  });
  return (
    <section aria-label="Sign of life">
      <h2 className="mb-1 text-lg">Sign of life</h2>
      <p className="mb-3 max-w-[640px] text-muted">
        The watch last gave one <Moment at={beat.beatAt} relative />. If this whole machine stops, nothing here can tell
        anybody: an address outside that is called every minute can.
        {beat.calledAt !== null && (
          <>
            {' '}
            Called last <Moment at={beat.calledAt} relative />
            {beat.trouble === null ? '.' : `: ${beat.trouble}`}
          </>
        )}
      </p>
      <Sheet of={sheet} sends="Save the address" look="plain" className="border border-line bg-surface p-4">
        <TextField label="Address that is called" name="address" placeholder="https://alive.example/ping/shelf" />
      </Sheet>
    </section>
  );
}
