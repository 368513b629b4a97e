'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import type { TakeInProps } from './TakeInForm';

const TakeInForm = dynamic(() => import('./TakeInForm').then((part) => part.TakeInForm), { ssr: false });

/** Drives come in. */
export function TakeIn(props: Omit<TakeInProps, 'onDone'>): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <>
      <Button look="main" onClick={() => setIsOpen(true)}>
        Take drives in
      </Button>
      {isOpen && (
        <FormDialog title="Take drives in" onClose={() => setIsOpen(false)}>
          <TakeInForm {...props} onDone={() => setIsOpen(false)} />
        </FormDialog>
      )}
    </>
  );
}
