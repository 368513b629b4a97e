'use client';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Found } from '~/service/drives/driveOperations';
import { Serial } from '~/web/parts/unit/Serial';
import { api } from '~/web/parts/form/api';
import { CameraButton } from '~/web/parts/scan/CameraButton';

/** How long to wait after a keystroke; a scanner types a whole serial in less. */
const PAUSE_MS = 120;

/** Finds units and drives by any part of a name or serial. A scanner's Enter goes to the first that fits. */
export function FindBox(): ReactNode {
  const router = useRouter();
  const [text, setText] = useState('');
  const [found, setFound] = useState<{ readonly of: string; readonly items: readonly Found[] } | null>(null);
  const [isOpen, setIsOpen] = useState(false);
  const wanted = text.trim();
  const goFirst = useRef(false);

  const go = ({ href }: Found): void => {
    setIsOpen(false);
    setText('');
    goFirst.current = false;
    router.push(href);
  };

  useEffect(() => {
    if (wanted === '') return;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      void api('GET /find', { query: { q: wanted } }, abort.signal).then((sent) => {
        if (sent.kind === 'refused') return;
        const { found: items } = sent.answer;
        setFound({ of: wanted, items });
        if (goFirst.current && items[0]) go(items[0]);
      });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `go` is new every time and only closes over stable things
  }, [wanted]);

  const current = found?.of === wanted ? found.items : null;
  return (
    <div className="flex w-full max-w-[460px] min-w-0 items-center gap-2">
      <Command shouldFilter={false} label="Find" className="relative w-full min-w-0">
        <Command.Input
          data-find
          value={text}
          placeholder="Find or scan a serial, unit, place…"
          className="field pr-8"
          onValueChange={(value) => {
            setText(value);
            setIsOpen(value.trim() !== '');
          }}
          onFocus={() => setIsOpen(wanted !== '')}
          onBlur={() => setIsOpen(false)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') {
              setText('');
              setIsOpen(false);
              event.currentTarget.blur();
            }
            // Enter before the answer is there: go to the first as soon as it comes.
            if (event.key === 'Enter' && wanted !== '' && current === null) goFirst.current = true;
          }}
        />
        <kbd className="pointer-events-none absolute top-2 right-3 font-mono text-muted max-sm:hidden" aria-hidden>
          /
        </kbd>
        <Command.List
          hidden={!isOpen || wanted === ''}
          className="absolute top-full right-0 left-0 z-20 mt-1 max-h-80 overflow-y-auto border border-line bg-surface py-1"
          onMouseDown={(event) => event.preventDefault()}
        >
          {current === null ? (
            <p className="px-3 py-2 text-muted">Looking…</p>
          ) : current.length === 0 ? (
            <p className="px-3 py-2 text-muted">Nothing here has “{wanted}” in its name, place or serial.</p>
          ) : (
            current.map((item) => (
              <Command.Item
                key={`${item.kind} ${item.title}`}
                value={`${item.kind} ${item.title}`}
                onSelect={() => go(item)}
                className="cursor-pointer px-3 py-2 aria-selected:bg-chosen"
              >
                {item.kind === 'drive' ? <Serial of={item.title} /> : <span className="font-semibold">{item.title}</span>}
                <span className="block text-sm text-muted">{item.detail}</span>
              </Command.Item>
            ))
          )}
        </Command.List>
      </Command>
      <CameraButton
        words="Scan"
        onSerial={(serial) => {
          goFirst.current = true;
          setText(serial);
        }}
      />
    </div>
  );
}
