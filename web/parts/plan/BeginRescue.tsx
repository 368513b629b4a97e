'use client';
import { useState, type ReactNode } from 'react';
import { Radios } from '~/web/parts/form/Radios';
import { BeginPlan } from './BeginPlan';

/** Begins the rescue as a plan, so that every step and who did it is remembered. */
export function BeginRescue({
  id,
  version,
  isLost,
}: {
  readonly id: string;
  readonly version: number;
  readonly isLost: boolean;
}): ReactNode {
  const [because, setBecause] = useState<'lost' | 'offers-to-erase'>(isLost ? 'lost' : 'offers-to-erase');
  return (
    <div className="no-print grid max-w-[640px] gap-3">
      <Radios
        legend="What happened"
        value={because}
        options={[
          { value: 'lost', words: 'A pool has stopped', isOff: !isLost },
          { value: 'offers-to-erase', words: 'A unit offers only to erase drives that were moved to it' },
        ]}
        onValue={(value) => setBecause(value as typeof because)}
      />
      <BeginPlan id={id} version={version} job="rescue" wish={{ because }} isReady words="Go through it step by step" />
    </div>
  );
}
