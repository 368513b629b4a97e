'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import type { Profile } from '~/core/platform/profile';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';

const DescribeForm = dynamic(() => import('./DescribeForm').then((part) => part.DescribeForm), { ssr: false });

/** Describes a unit no profile fits. */
export function DescribeUnit({
  like,
  onDescribed,
}: {
  readonly like: Profile;
  readonly onDescribed: (id: string) => void;
}): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <>
      <Button className="no-print" onClick={() => setIsOpen(true)}>
        Describe one…
      </Button>
      {isOpen && (
        <FormDialog title="Describe a unit" onClose={() => setIsOpen(false)}>
          <DescribeForm
            like={like}
            onDescribed={(id) => {
              setIsOpen(false);
              onDescribed(id);
            }}
          />
        </FormDialog>
      )}
    </>
  );
}
