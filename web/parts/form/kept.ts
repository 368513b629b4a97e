import { useSyncExternalStore } from 'react';

/** What is kept in this browser, so that a reload or a lost network loses nothing. */

const CHANGED = 'shelf-kept';

/** The text that is kept under a key; the same text as long as nothing changes. */
export function keptText(key: string): string {
  return localStorage.getItem(key) ?? '';
}

/** Empty text keeps nothing. */
export function keepText(key: string, text: string): void {
  if (text === '') localStorage.removeItem(key);
  else localStorage.setItem(key, text);
  window.dispatchEvent(new Event(CHANGED));
}

/** Tells of changes made here and in other windows. */
function subscribe(changed: () => void): () => void {
  window.addEventListener(CHANGED, changed);
  window.addEventListener('storage', changed);
  return () => {
    window.removeEventListener(CHANGED, changed);
    window.removeEventListener('storage', changed);
  };
}

/** The kept text as it is now; empty while the page is made on the server. */
export function useKept(key: string): string {
  return useSyncExternalStore(
    subscribe,
    () => keptText(key),
    () => '',
  );
}

/** A kept value; `otherwise` where there is none, or it is no longer readable. */
export function parseKept<T>(text: string, otherwise: T): T {
  if (text === '') return otherwise;
  try {
    return JSON.parse(text) as T;
  } catch {
    return otherwise;
  }
}
