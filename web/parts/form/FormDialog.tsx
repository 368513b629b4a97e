'use client';
import dynamic from 'next/dynamic';
import type { ReactNode } from 'react';

const Dialog = dynamic(() => import('./Dialog').then((part) => part.Dialog), { ssr: false });

/** A window with a form in it, which comes when it is opened. What is typed into the form is kept when it is closed. */
export function FormDialog({
  title,
  onClose,
  children,
}: {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
}): ReactNode {
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={title}>
      {children}
    </Dialog>
  );
}
