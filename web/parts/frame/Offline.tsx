'use client';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { Moment } from '~/web/parts/unit/Moment';

/** How often the server is looked for while it is away. */
const AGAIN_MS = 5000;

interface Props {
  /** When this page was made. */
  readonly madeAt: string;
  /** What is worth having at a shelf where there is no network: the plans under way, their units, their lamps. */
  readonly keep: readonly string[];
}

/** Keeps the application at hand where there is no network, and says how old a page is that came from there. */
export function Offline({ madeAt, keep }: Props): ReactNode {
  const router = useRouter();
  const path = usePathname();
  const search = useSearchParams().toString();
  const [isAway, setIsAway] = useState(false);
  const list = keep.join(' ');

  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    void navigator.serviceWorker.register('/serwist/sw.js', { scope: '/', type: 'module', updateViaCache: 'none' });
  }, []);
  // A soft change of place fetches no page that could be kept.
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    const paths = [path + (search === '' ? '' : `?${search}`), ...(list === '' ? [] : list.split(' '))];
    void navigator.serviceWorker.ready.then(({ active }) => active?.postMessage({ kind: 'keep', paths }));
  }, [path, search, list]);
  // A plan goes on by what is done on its page: kept as it was before that, it would have it done once more.
  useEffect(() => {
    if (!('serviceWorker' in navigator) || !/^\/units\/[^/]+\/plans\/[^/]+$/.test(path)) return;
    void navigator.serviceWorker.ready.then(({ active }) =>
      active?.postMessage({ kind: 'keep', paths: [path], isChanged: true }),
    );
  }, [path, madeAt]);
  useEffect(() => {
    let isOver = false;
    let wasAway = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async (): Promise<void> => {
      clearTimeout(timer);
      // A disk that is full keeps nobody from reading.
      const isThere = await fetch('/api/health', { cache: 'no-store' })
        .then((answer) => answer.json() as Promise<{ readonly database?: string }>)
        .then(
          ({ database }) => database === 'ok',
          () => false,
        );
      if (isOver) return;
      setIsAway(!isThere);
      if (wasAway && isThere) router.refresh();
      wasAway = !isThere;
      if (!isThere) timer = setTimeout(() => void look(), AGAIN_MS);
    };
    const again = (): void => void look();
    again();
    window.addEventListener('online', again);
    window.addEventListener('offline', again);
    return () => {
      isOver = true;
      clearTimeout(timer);
      window.removeEventListener('online', again);
      window.removeEventListener('offline', again);
    };
  }, [madeAt, router]);

  if (!isAway) return null;
  return (
    <p
      role="status"
      data-away
      className="no-print border-b-2 border-watch bg-watch-ground px-5 py-2 font-semibold text-ink"
    >
      The server is not reached. This is how it was <Moment at={madeAt} relative />, at <Moment at={madeAt} />. What you
      confirm in a plan is kept here and sent later.
    </p>
  );
}
