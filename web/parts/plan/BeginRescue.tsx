'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';

/** Begins the rescue as a plan, so that every step and who did it is remembered. */
export function BeginRescue({ id, version, isLost }: { readonly id: string; readonly version: number; readonly isLost: boolean }): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [because, setBecause] = useState(isLost ? 'lost' : 'offers-to-erase');
  return (
    <div className="no-print grid max-w-[640px] gap-3">
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <fieldset className="grid gap-2">
        <legend className="sr-only">What happened</legend>
        {[
          { id: 'lost', words: 'A pool has lost more than it may' },
          { id: 'offers-to-erase', words: 'A unit offers only to erase drives that were moved to it' },
        ].map((one) => (
          <label key={one.id} className="flex min-h-9 items-center gap-3 max-sm:min-h-11">
            <input type="radio" name="because" checked={because === one.id} disabled={one.id === 'lost' && !isLost} onChange={() => setBecause(one.id)} />
            {one.words}
          </label>
        ))}
      </fieldset>
      <div>
        <Button
          look="main"
          className="min-h-11"
          disabled={busy}
          onClick={() =>
            void run('POST', `/api/v1/units/${id}/plans`, { expectedVersion: version, job: 'rescue', wish: { because } }).then(
              (answer) => answer && router.push(`/units/${id}/plans/${String(answer['plan'])}`),
            )
          }
        >
          Go through it step by step
        </Button>
      </div>
    </div>
  );
}
