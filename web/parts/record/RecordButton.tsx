'use client';
import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { openRecord } from './openRecord';

/** Opens the box in which everything is recorded; the key N does the same. */
export function RecordButton(): ReactNode {
  return (
    <Button look="main" onClick={openRecord}>
      Record what happened
    </Button>
  );
}
