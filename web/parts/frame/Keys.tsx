'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { mayLeave } from '~/web/parts/form/sheet/leaving';
import { openRecord } from '~/web/parts/record/openRecord';
import { PLACES } from './places';

const KeysDialog = dynamic(() => import('./KeysDialog').then((part) => part.KeysDialog), { ssr: false });

/** Listens for the keys that work everywhere, and shows them under "?". Typing in a field is never a key. */
export function Keys(): ReactNode {
  const router = useRouter();
  const [shown, setShown] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest(
          'input, textarea, select, [role=combobox], [role=listbox], [role=menu], [role=dialog], [contenteditable]',
        )
      )
        return;
      const place = PLACES.find(({ key }) => key === event.key.toLowerCase());
      if (place) {
        if (mayLeave()) router.push(place.href);
      } else if (event.key === '?') setShown(true);
      else if (event.key.toLowerCase() === 'n') openRecord();
      else if (event.key === '/') document.querySelector<HTMLInputElement>('[data-find]')?.focus();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => {
      document.removeEventListener('keydown', onKey);
    };
  }, [router]);
  return shown ? <KeysDialog onClose={() => setShown(false)} /> : null;
}
