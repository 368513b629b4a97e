'use client';
import type { ReactNode } from 'react';
import { Button, type Look } from './Button';
import { useReady } from './useReady';

/** Sends a form; waits until the page's code runs, since a form sent before that would go nowhere sensible. */
export function SubmitButton({
  look = 'main',
  busy = false,
  className = '',
  children,
}: {
  readonly look?: Look;
  readonly busy?: boolean;
  readonly className?: string;
  readonly children: ReactNode;
}): ReactNode {
  const isReady = useReady();
  return (
    <Button look={look} type="submit" disabled={busy || !isReady} className={className}>
      {children}
    </Button>
  );
}
