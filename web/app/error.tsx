'use client';
import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';

/** Shown when a page could not be made; what was recorded is not touched by that. */
export default function PageError({ reset }: { readonly error: Error; readonly reset: () => void }): ReactNode {
  return (
    <main className="p-6">
      <h1 className="text-xl">This page could not be shown</h1>
      <p className="mt-1 mb-4 max-w-[60ch] text-muted">
        What was recorded is safe. If the database is being restarted, wait a moment and try again; if it stays so, the
        reason is in the application’s log in the data folder.
      </p>
      <Button look="main" onClick={reset}>
        Try again
      </Button>
    </main>
  );
}
