'use client';
import dynamic from 'next/dynamic';
import type { ReactNode } from 'react';
import type { BenchProps } from './Bench';

// The sheet is a draft of this browser; a server has nothing to draw before it is read.
const Bench = dynamic(() => import('./BenchInAddress').then((part) => part.BenchInAddress), {
  ssr: false,
  loading: () => <p className="p-5 text-muted">Laying out the bench…</p>,
});

export function BenchLoader(props: BenchProps): ReactNode {
  return <Bench {...props} />;
}
