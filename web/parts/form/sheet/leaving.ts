'use client';
import { useEffect } from 'react';

/** Forms on this page that are half filled. */
const halfFilled = new Set<symbol>();

const QUESTION = 'Something here is typed and not sent. Leave it? It stays in this window until you come back to it.';

/** Whether the page may be left: asks when a form on it is half filled. Whatever goes elsewhere by itself asks this first. */
export function mayLeave(): boolean {
  return halfFilled.size === 0 || window.confirm(QUESTION);
}

/** While it is true, a link, a closed window and the keys that go elsewhere ask before the page is left. */
export function useAsksBeforeLeaving(isHalfFilled: boolean): void {
  useEffect(() => {
    if (!isHalfFilled) return;
    const me = Symbol();
    halfFilled.add(me);
    const unload = (event: BeforeUnloadEvent): void => event.preventDefault();
    const click = (event: MouseEvent): void => {
      const link = (event.target as Element | null)?.closest('a[href]');
      if (
        !link ||
        event.ctrlKey ||
        event.metaKey ||
        event.shiftKey ||
        link.getAttribute('target') === '_blank' ||
        link.hasAttribute('download')
      )
        return;
      if ([...halfFilled][0] !== me || mayLeave()) return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('beforeunload', unload);
    document.addEventListener('click', click, true);
    return () => {
      halfFilled.delete(me);
      window.removeEventListener('beforeunload', unload);
      document.removeEventListener('click', click, true);
    };
  }, [isHalfFilled]);
}
