'use client';
import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { OPEN_RECORD } from './RecordBox';

/** Opens the box in which everything is recorded; the key N does the same. */
export function RecordButton(): ReactNode {
  return (
    <Button look="main" onClick={() => window.dispatchEvent(new Event(OPEN_RECORD))}>
      Record what happened
    </Button>
  );
}
