'use client';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode, type RefObject } from 'react';
import type { Found } from '~/service/drives/driveOperations';
import { Serial } from '~/web/parts/unit/Serial';
import { api } from '~/web/parts/form/api';
import { mayLeave } from '~/web/parts/form/sheet/leaving';
import { useAsked } from '~/web/parts/form/useAsked';
import { FIND_INPUT } from './findInput';

export interface FindAsYouTypeProps {
  readonly text: string;
  readonly onText: (text: string) => void;
  /** Enter was pressed, or the camera has read something, before there was an answer: the first that fits is gone to. */
  readonly goFirstRef: RefObject<boolean>;
}

/** What fits, while it is typed. A scanner's Enter goes to the first. */
export function FindAsYouType({ text, onText: setText, goFirstRef }: FindAsYouTypeProps): ReactNode {
  const router = useRouter();
  const [isOpen, setIsOpen] = useState(text.trim() !== '');
  const wanted = text.trim();

  const go = ({ href }: Found): void => {
    setIsOpen(false);
    setText('');
    goFirstRef.current = false;
    if (mayLeave()) router.push(href);
  };

  const { answer } = useAsked(
    wanted === '' ? null : wanted,
    (signal) => api('GET /find', { query: { q: wanted } }, signal),
    {
      onAnswer: ({ found: [first] }) => {
        if (goFirstRef.current && first) go(first);
      },
    },
  );
  const current = answer?.found ?? null;
  // It takes the place of the plain field: whoever was typing there goes on here.
  const wasTyping = useState(() => document.activeElement?.matches('[data-find]') === true)[0];
  return (
    <Command shouldFilter={false} label="Find" className="relative w-full min-w-0">
      <Command.Input
        {...FIND_INPUT}
        autoFocus={wasTyping}
        value={text}
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
          if (event.key === 'Enter' && wanted !== '' && current === null) goFirstRef.current = true;
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
  );
}
