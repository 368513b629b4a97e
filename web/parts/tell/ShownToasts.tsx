'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, type ReactNode } from 'react';
import { toast, Toaster } from 'sonner';
import { api } from '~/web/parts/form/api';
import type { Told } from './tell';

/** How long a line stays, and one with a way back; after that the ledger has it. */
const [STAYS_MS, STAYS_WITH_WAY_BACK_MS] = [6000, 60_000];

const STYLE = { borderRadius: 2, background: 'var(--surface)', color: 'var(--ink)', borderColor: 'var(--line)' };

const backOf = (act: string): NonNullable<Told['takeBack']> => ({
  send: () => api('POST /acts/{id}/back', { id: act, body: { reason: 'taken back at once' } }),
  said: 'Taken back. What was recorded and its withdrawal both stay in the ledger.',
});

export function ShownToasts({ told }: { readonly told: readonly Told[] }): ReactNode {
  const router = useRouter();
  const shown = useRef(0);
  useEffect(() => {
    const goBack = async ({ send, said }: NonNullable<Told['takeBack']>): Promise<void> => {
      const sent = await send();
      if (sent.kind === 'done') toast(said);
      else toast.error(sent.sentence);
      router.refresh();
    };
    for (const { sentence, isFault = false, act, takeBack = act && backOf(act) } of told.slice(shown.current)) {
      if (isFault) toast.error(sentence, { duration: 2 * STAYS_MS });
      else if (!takeBack) toast(sentence, { duration: STAYS_MS });
      else
        toast(sentence, {
          duration: STAYS_WITH_WAY_BACK_MS,
          closeButton: true,
          action: { label: 'Take back', onClick: () => void goBack(takeBack) },
        });
    }
    shown.current = told.length;
  }, [told, router]);
  return (
    <div className="no-print">
      <Toaster position="bottom-right" toastOptions={{ style: STYLE }} />
    </div>
  );
}
