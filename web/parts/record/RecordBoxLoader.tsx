'use client';
import dynamic from 'next/dynamic';
import { useEffect, useState, type ReactNode } from 'react';
import { OPEN_RECORD } from './openRecord';

const RecordBox = dynamic(() => import('./RecordBox').then((part) => part.RecordBox), { ssr: false });

/** Opens the box when it is asked for; it comes with the first time. */
export function RecordBoxLoader(): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  useEffect(() => {
    const show = (): void => setIsOpen(true);
    window.addEventListener(OPEN_RECORD, show);
    return () => window.removeEventListener(OPEN_RECORD, show);
  }, []);
  return isOpen ? <RecordBox onClose={() => setIsOpen(false)} /> : null;
}
