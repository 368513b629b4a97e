'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { Dialog } from '~/web/parts/form/Dialog';
import { OPEN_RECORD } from '~/web/parts/record/RecordBox';
import { EVERYWHERE, PLACES } from './places';

/** Listens for the keys that work everywhere, and shows them under "?". Typing in a field is never a key. */
export function Keys(): ReactNode {
  const router = useRouter();
  const [shown, setShown] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, textarea, select, [role=dialog], [contenteditable]')) return;
      const place = PLACES.find(({ key }) => key === event.key.toLowerCase());
      if (place) router.push(place.href);
      else if (event.key === '?') setShown(true);
      else if (event.key.toLowerCase() === 'n') window.dispatchEvent(new Event(OPEN_RECORD));
      else if (event.key === '/') document.querySelector<HTMLInputElement>('[data-find]')?.focus();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => {
      document.removeEventListener('keydown', onKey);
    };
  }, [router]);
  return (
    <Dialog open={shown} onOpenChange={setShown} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {EVERYWHERE.map(({ key, does }) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded-[2px] border border-line px-2 font-mono uppercase">{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
