'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';

const OrderForm = dynamic(() => import('./OrderForms').then((part) => part.OrderForm), { ssr: false });
const CloseOrderForm = dynamic(() => import('./OrderForms').then((part) => part.CloseOrderForm), { ssr: false });

export function WriteDownOrder(): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const close = (): void => setIsOpen(false);
  return (
    <>
      <Button onClick={() => setIsOpen(true)}>Write down an order…</Button>
      {isOpen && (
        <FormDialog title="Drives ordered" onClose={close}>
          <OrderForm onDone={close} />
        </FormDialog>
      )}
    </>
  );
}

/** Nothing more of an order will come. */
export function CloseOrder({ id, supplier }: { readonly id: string; readonly supplier: string }): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const close = (): void => setIsOpen(false);
  return (
    <>
      <button type="button" className="text-action underline max-sm:min-h-11" onClick={() => setIsOpen(true)}>
        Close…<span className="sr-only"> the order from {supplier}</span>
      </button>
      {isOpen && (
        <FormDialog title="Expect nothing more of it" onClose={close}>
          <CloseOrderForm id={id} onDone={close} />
        </FormDialog>
      )}
    </>
  );
}
