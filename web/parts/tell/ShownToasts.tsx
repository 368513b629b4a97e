'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, type ReactNode } from 'react';
import { toast, Toaster } from 'sonner';
import { api } from '~/web/parts/form/api';
import type { Told } from './tell';

/** How long a line stays, and one with a way back; after that the ledger has it. */
const [STAYS_MS, STAYS_WITH_WAY_BACK_MS] = [6000, 60_000];

const STYLE = { borderRadius: 2, background: 'var(--surface)', color: 'var(--ink)', borderColor: 'var(--line)' };

export function ShownToasts({ told }: { readonly told: readonly Told[] }): ReactNode {
  const router = useRouter();
  const shown = useRef(0);
  useEffect(() => {
    const takeBack = async (act: string): Promise<void> => {
      const sent = await api('POST /acts/{id}/back', { id: act, body: { reason: 'taken back at once' } });
      if (sent.kind === 'done') toast('Taken back. What was recorded and its withdrawal both stay in the ledger.');
      else toast.error(sent.sentence);
      router.refresh();
    };
    for (const { sentence, isFault = false, act } of told.slice(shown.current)) {
      if (isFault) toast.error(sentence, { duration: 2 * STAYS_MS });
      else if (act === undefined) toast(sentence, { duration: STAYS_MS });
      else
        toast(sentence, {
          duration: STAYS_WITH_WAY_BACK_MS,
          closeButton: true,
          action: { label: 'Take back', onClick: () => void takeBack(act) },
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
