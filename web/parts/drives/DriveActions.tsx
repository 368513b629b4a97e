'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import type { Doing, DriveActionProps } from './DriveActionForm';

const DriveActionForm = dynamic(() => import('./DriveActionForm').then((part) => part.DriveActionForm), { ssr: false });

const WORDS: Record<Doing, string> = {
  drawer: 'Put into a drawer',
  tested: 'Tested',
  warranty: 'Send under warranty',
  settled: 'Warranty settled',
  wiped: 'Wiped',
  away: 'Sent away',
  described: 'Describe it',
};

/** What can be recorded of a drive by where it is. */
const MAY: Record<DriveActionProps['life']['where']['kind'], readonly Doing[]> = {
  bay: ['described'],
  'under-warranty': ['settled', 'drawer'],
  gone: ['described'],
  drawer: ['drawer', 'tested', 'wiped', 'warranty', 'away', 'described'],
  'in-hand': ['drawer', 'tested', 'wiped', 'warranty', 'away', 'described'],
};

/** What can be recorded of a drive that is in no unit: where it was put, how it was emptied, where it went. */
export function DriveActions(drive: Omit<DriveActionProps, 'doing' | 'onDone'>): ReactNode {
  const [doing, setDoing] = useState<Doing | null>(null);
  return (
    <div className="no-print">
      <div className="flex flex-wrap gap-2" role="group" aria-label="Record of this drive">
        {MAY[drive.life.where.kind].map((one) => (
          <Button key={one} onClick={() => setDoing(one)}>
            {WORDS[one]}…
          </Button>
        ))}
      </div>
      {doing !== null && (
        <FormDialog title={WORDS[doing]} onClose={() => setDoing(null)}>
          <DriveActionForm {...drive} doing={doing} onDone={() => setDoing(null)} />
        </FormDialog>
      )}
    </div>
  );
}
