'use client';
import dynamic from 'next/dynamic';
import type { ListHere as Drawn } from './ListHereDrawn';

/** A long list whose rows the browser has; what draws it comes after the page. */
export const ListHere = dynamic(() => import('./ListHereDrawn').then((part) => part.ListHere), {
  ssr: false,
  loading: () => <p className="text-muted">The list is coming…</p>,
}) as typeof Drawn;
