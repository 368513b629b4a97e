'use client';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import type { ReactNode } from 'react';
import { Bench, type BenchProps } from './Bench';

/** The bench keeps what is looked at in its address. */
export function BenchInAddress(props: BenchProps): ReactNode {
  return (
    <NuqsAdapter>
      <Bench {...props} />
    </NuqsAdapter>
  );
}
