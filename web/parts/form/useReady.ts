'use client';
import { useSyncExternalStore } from 'react';

const never = (): (() => void) => () => undefined;

/** False until the page's own code runs in the browser. */
export function useReady(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}
