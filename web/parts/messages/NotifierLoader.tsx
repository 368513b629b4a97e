'use client';
import dynamic from 'next/dynamic';
import { useSyncExternalStore, type ReactNode } from 'react';
import { NOTIFIES, watchNotifies } from './notifies';

const Notifier = dynamic(() => import('./Notifier').then((part) => part.Notifier), { ssr: false });

/** What shows notifications comes only where this browser was asked to. */
export function NotifierLoader(): ReactNode {
  const isOn = useSyncExternalStore(
    watchNotifies,
    () => localStorage.getItem(NOTIFIES) === 'on',
    () => false,
  );
  return isOn ? <Notifier /> : null;
}
