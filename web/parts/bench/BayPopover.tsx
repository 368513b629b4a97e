'use client';
import { Popover } from 'radix-ui';
import { useState, type FormEvent, type ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { figuresOf, MEDIA, type Media } from '~/core/drive/media';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { withDrivesInBays } from './drives';

interface Props {
  readonly bay: string;
  /** The bay as its unit counts it. */
  readonly place: string;
  readonly drive: ListedDrive | undefined;
  readonly drives: readonly ListedDrive[];
  readonly drawer: readonly ListedDrive[];
  readonly free: readonly string[];
  readonly onSheet: (sheet: string) => void;
  readonly onLeaveOut: () => void;
  readonly onFromDrawer: (index: number) => void;
  readonly children: ReactNode;
}

/** Tries another drive in a bay, some like it in the free ones after it, or one out of the drawer. */
export function BayPopover({ bay, place, drive, drives, drawer, free, onSheet, onLeaveOut, onFromDrawer, children }: Props): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const [fault, setFault] = useState<string>();
  const like = drive ?? drives[0];
  const others = free.filter((other) => other !== bay);
  const close = (work: () => void) => (): void => {
    setIsOpen(false);
    work();
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const count = Number(form.get('count') ?? 1);
    const sheet = withDrivesInBays(drives, [bay, ...others.slice(0, count - 1)], String(form.get('size')), form.get('media') as Media);
    if (sheet === null) setFault('Write a size as on the label, "16 TB", or in bytes.');
    else close(() => onSheet(sheet))();
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          align="start"
          aria-label={`${place[0]?.toUpperCase() ?? ''}${place.slice(1)}`}
          className="z-20 w-72 border border-line bg-surface p-4 text-ink"
        >
          <form method="post" onSubmit={submit} className="grid gap-3">
            <Field
              label={drive ? `Instead, in ${place}` : `In ${place}`}
              name="size"
              defaultValue={like?.label ?? (like ? String(like.bytes) : '8 TB')}
              fault={fault}
              autoComplete="off"
              onFocus={(event) => event.target.select()}
            />
            <div className="flex gap-3">
              <label className="flex-1 text-sm">
                kind
                <select name="media" className="field" defaultValue={like?.media ?? 'hard-disk'}>
                  {MEDIA.map((media) => (
                    <option key={media} value={media}>
                      {figuresOf(media).name}
                    </option>
                  ))}
                </select>
              </label>
              {others.length > 0 && (
                <label className="w-20 text-sm">
                  how many
                  <input type="number" name="count" min={1} max={others.length + 1} defaultValue={1} className="field" />
                </label>
              )}
            </div>
            <div className="flex flex-wrap gap-2">
              <SubmitButton>Try it</SubmitButton>
              {drive && drives.length > 1 && <Button onClick={close(onLeaveOut)}>Into the drawer</Button>}
            </div>
            {drawer.length > 0 && (
              <fieldset className="flex flex-wrap gap-1.5 border-t border-line pt-2">
                <legend className="sr-only">Out of the drawer</legend>
                {drawer.map((spare, i) => (
                  <Button key={i} onClick={close(() => onFromDrawer(i))}>
                    {formatBytes(spare.bytes)} {spare.serial?.slice(-4)} from the drawer
                  </Button>
                ))}
              </fieldset>
            )}
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
