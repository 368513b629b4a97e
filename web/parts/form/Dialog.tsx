'use client';
import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** A window over the page: titled, closed by Escape, focus kept inside and given back. */
export function Dialog({
  open,
  onOpenChange,
  title,
  children,
}: {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly title: string;
  readonly children: ReactNode;
}): ReactNode {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-20 bg-black/40" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-30 max-h-[90vh] w-[min(560px,calc(100vw-24px))] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-[2px] border border-line bg-surface p-6 text-ink"
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <Radix.Title className="text-xl">{title}</Radix.Title>
            <Radix.Close className="min-h-8 rounded-[2px] border border-line px-2 text-sm max-sm:min-h-11">
              Close
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
