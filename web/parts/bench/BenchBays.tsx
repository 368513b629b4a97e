'use client';
import { Popover } from 'radix-ui';
import { useState, type FormEvent, type ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { freeBays, withDriveInBay, withoutBay } from './drives';

/** Bays drawn one by one up to this many; beyond, they are counted by size. */
const MOST_DRAWN = 36;

interface Props {
  readonly drives: readonly ListedDrive[];
  readonly bays: number;
  readonly spareBays: readonly string[];
  /** A change on top: the whole sheet, written anew. */
  readonly onSheet: (sheet: string) => void;
}

/** The drives in hand, bay by bay, empty bays dashed and spares outlined; press one to try another drive there. */
export function BenchBays({ drives, bays, spareBays, onSheet }: Props): ReactNode {
  if (drives.length > MOST_DRAWN) {
    const sizes = new Map<string, number>();
    for (const { bytes } of drives) sizes.set(formatBytes(bytes), (sizes.get(formatBytes(bytes)) ?? 0) + 1);
    return (
      <p className="text-muted">
        {[...sizes]
          .slice(0, 12)
          .map(([size, count]) => `${String(count)} × ${size}`)
          .join(', ')}
        {sizes.size > 12 && ` and ${String(sizes.size - 12)} more sizes`}
      </p>
    );
  }
  const isDense = Math.max(bays, drives.length) > 8;
  const free = freeBays(drives, bays).slice(0, MOST_DRAWN - drives.length);
  const box = `text-left ${isDense ? 'min-w-[50px] px-1.5 py-0.5' : 'min-w-[66px] px-2 py-1.5'}`;
  return (
    <ul aria-label="Bays" className="flex flex-wrap gap-1.5">
      {drives.map((drive) => {
        const { bay, bytes, serial } = drive;
        const isSpare = spareBays.includes(bay);
        return (
          <li key={bay}>
            <BayPopover bay={bay} drive={drive} drives={drives} free={free} onSheet={onSheet}>
              <button
                type="button"
                className={`border bg-surface hover:bg-chosen ${box} ${isSpare ? 'border-dotted border-ink' : 'border-line'}`}
                title={serial}
              >
                <span className="block text-xs text-muted">{isSpare ? `${bay}, spare` : isDense ? bay : `bay ${bay}`}</span>
                <span className={isDense ? 'text-sm font-bold' : 'text-lg font-bold'}>{formatBytes(bytes)}</span>
              </button>
            </BayPopover>
          </li>
        );
      })}
      {free.map((bay) => (
        <li key={bay}>
          <BayPopover bay={bay} drives={drives} free={free} onSheet={onSheet}>
            <button type="button" className={`border border-dashed border-muted text-muted hover:bg-chosen ${box}`}>
              <span className="block text-xs">{isDense ? bay : `bay ${bay}`}</span>
              <span className={isDense ? 'text-sm' : 'text-lg'}>free</span>
            </button>
          </BayPopover>
        </li>
      ))}
    </ul>
  );
}

interface PopoverProps extends Pick<Props, 'drives' | 'onSheet'> {
  readonly bay: string;
  readonly drive?: ListedDrive;
  readonly free: readonly string[];
  readonly children: ReactNode;
}

/** Tries another drive in a bay, or the same in all free ones. */
function BayPopover({ bay, drive, drives, free, onSheet, children }: PopoverProps): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const [fault, setFault] = useState<string>();
  const size = drive ? (drive.label ?? String(drive.bytes)) : drives[0] ? (drives[0].label ?? String(drives[0].bytes)) : '8 TB';
  const done = (sheet: string | null): void => {
    if (sheet === null) setFault('Write a size as on the label, "16 TB", or in bytes.');
    else {
      setIsOpen(false);
      onSheet(sheet);
    }
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const also = form.get('all') === 'on' ? free : [];
    done(withDriveInBay(drives, [...new Set([bay, ...also])], String(form.get('size'))));
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={4} align="start" className="z-20 w-64 border border-line bg-surface p-4 text-ink">
          <form method="post" onSubmit={submit} className="grid gap-3">
            <Field
              label={drive ? `Instead, in bay ${bay}` : `In bay ${bay}`}
              name="size"
              defaultValue={size}
              fault={fault}
              autoComplete="off"
              onFocus={(event) => event.target.select()}
            />
            {free.length > (drive ? 0 : 1) && (
              <label className="flex items-center gap-2">
                <input type="checkbox" name="all" className="size-4" /> and in all {free.length} free bays
              </label>
            )}
            <div className="flex gap-2">
              <SubmitButton>Try it</SubmitButton>
              {drive && drives.length > 1 && <Button onClick={() => done(withoutBay(drives, bay))}>Leave it out</Button>}
            </div>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
