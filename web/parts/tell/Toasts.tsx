'use client';
import dynamic from 'next/dynamic';
import { useEffect, useState, type ReactNode } from 'react';
import { TOLD, type Told } from './tell';

const ShownToasts = dynamic(() => import('./ShownToasts').then((part) => part.ShownToasts), { ssr: false });

/** Waits for something to tell, and loads what draws it only then. */
export function Toasts(): ReactNode {
  const [told, setTold] = useState<readonly Told[]>([]);
  useEffect(() => {
    const hear = (event: Event): void => setTold((before) => [...before, (event as CustomEvent<Told>).detail]);
    window.addEventListener(TOLD, hear);
    return () => window.removeEventListener(TOLD, hear);
  }, []);
  return told.length === 0 ? null : <ShownToasts told={told} />;
}
