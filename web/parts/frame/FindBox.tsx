'use client';
import { useRef, useState, type ComponentType, type ReactNode } from 'react';
import { CameraButton } from '~/web/parts/scan/CameraButton';
import type { FindAsYouTypeProps } from './FindAsYouType';
import { FIND_INPUT } from './findInput';

/** Finds units and drives by any part of a name or serial. What lists them is loaded when somebody comes near the field. */
export function FindBox(): ReactNode {
  const [text, setText] = useState('');
  const [Listed, setListed] = useState<ComponentType<FindAsYouTypeProps> | null>(null);
  const goFirst = useRef(false);
  const field = useRef<HTMLInputElement>(null);
  const load = (): void => void import('./FindAsYouType').then((part) => setListed(() => part.FindAsYouType));
  return (
    <div className="flex w-full max-w-[460px] min-w-0 items-center gap-2">
      {Listed ? (
        <Listed text={text} onText={setText} goFirstRef={goFirst} />
      ) : (
        <div className="relative w-full min-w-0">
          <input
            ref={field}
            {...FIND_INPUT}
            aria-label="Find"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onPointerEnter={load}
            onFocus={load}
            // Enter before there is a list: to the first as soon as there is.
            onKeyDown={(event) => {
              if (event.key === 'Enter') goFirst.current = true;
            }}
          />
          <kbd className="pointer-events-none absolute top-2 right-3 font-mono text-muted max-sm:hidden" aria-hidden>
            /
          </kbd>
        </div>
      )}
      <CameraButton
        words="Scan"
        onSerial={(serial) => {
          goFirst.current = true;
          setText(serial);
          load();
        }}
      />
    </div>
  );
}
