'use client';
import { useState, type ReactNode } from 'react';
import { BeginPlan } from './BeginPlan';

/** Begins the rescue as a plan, so that every step and who did it is remembered. */
export function BeginRescue({ id, version, isLost }: { readonly id: string; readonly version: number; readonly isLost: boolean }): ReactNode {
  const [because, setBecause] = useState<'lost' | 'offers-to-erase'>(isLost ? 'lost' : 'offers-to-erase');
  return (
    <div className="no-print grid max-w-[640px] gap-3">
      <fieldset className="grid gap-2">
        <legend className="sr-only">What happened</legend>
        {(
          [
            { id: 'lost', words: 'A pool has lost more than it may' },
            { id: 'offers-to-erase', words: 'A unit offers only to erase drives that were moved to it' },
          ] as const
        ).map((one) => (
          <label key={one.id} className="flex min-h-9 items-center gap-3 max-sm:min-h-11">
            <input type="radio" name="because" checked={because === one.id} disabled={one.id === 'lost' && !isLost} onChange={() => setBecause(one.id)} />
            {one.words}
          </label>
        ))}
      </fieldset>
      <BeginPlan id={id} version={version} job="rescue" wish={{ because }} isReady words="Go through it step by step" />
    </div>
  );
}
