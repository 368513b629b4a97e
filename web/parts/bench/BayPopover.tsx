'use client';
import dynamic from 'next/dynamic';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import type { OtherDriveProps } from './OtherDrive';

const OtherDrive = dynamic(() => import('./OtherDrive').then((part) => part.OtherDrive), { ssr: false });

/** What can be tried in a bay, beside it. */
export function BayPopover({ children, ...of }: OtherDriveProps & { readonly children: ReactNode }): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const { place, onSheet, onLeaveOut, onFromDrawer } = of;
  const close = (work: () => void): void => {
    setIsOpen(false);
    work();
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          align="start"
          aria-label={`${place[0]?.toUpperCase() ?? ''}${place.slice(1)}`}
          className="z-20 max-h-[var(--radix-popover-content-available-height)] w-80 overflow-y-auto border border-line bg-surface p-4 text-ink"
        >
          <OtherDrive
            {...of}
            onSheet={(sheet) => close(() => onSheet(sheet))}
            onLeaveOut={() => close(onLeaveOut)}
            onFromDrawer={(index) => close(() => onFromDrawer(index))}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
