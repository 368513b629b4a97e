'use client';
import type { ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { figuresOf, MEDIA, type Media } from '~/core/drive/media';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { SizeField } from '~/web/parts/form/fields/SizeField';
import { NumberField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useLooseSheet } from '~/web/parts/form/sheet/useLooseSheet';
import { unread } from '~/web/parts/form/sheet/useSheet';
import { withDrivesInBays } from './drives';

export interface OtherDriveProps {
  readonly bay: string;
  /** The bay as its unit counts it. */
  readonly place: string;
  readonly drive: ListedDrive | undefined;
  readonly drives: readonly ListedDrive[];
  readonly drawer: readonly ListedDrive[];
  /** Bays that hold nothing yet. */
  readonly free: readonly string[];
  readonly onSheet: (sheet: string) => void;
  readonly onLeaveOut: () => void;
  readonly onFromDrawer: (index: number) => void;
}

/** Tries another drive in a bay, some like it in the free ones after it, or one out of the drawer. */
export function OtherDrive({
  bay,
  place,
  drive,
  drives,
  drawer,
  free,
  onSheet,
  onLeaveOut,
  onFromDrawer,
}: OtherDriveProps): ReactNode {
  const like = drive ?? drives[0];
  const others = free.filter((other) => other !== bay);
  const made = (values: { readonly size: string; readonly media: string; readonly count: string }): string | null =>
    withDrivesInBays(
      drives,
      [bay, ...others.slice(0, Math.max(1, Number(values.count)) - 1)],
      values.size,
      values.media as Media,
    );
  const sheet = useLooseSheet({
    start: { size: like?.label ?? (like ? String(like.bytes) : '8 TB'), media: like?.media ?? 'hard-disk', count: '1' },
    checks: (values) =>
      made(values) === null ? unread({ size: 'Write a size as on the label, "16 TB", or in bytes.' }) : null,
    does: (values) => {
      const text = made(values);
      if (text !== null) onSheet(text);
      return Promise.resolve(null);
    },
  });
  return (
    <>
      <Sheet of={sheet} sends="Try it">
        <SizeField label={drive ? `Instead, in ${place}` : `In ${place}`} name="size" autoFocus />
        <div className={others.length > 0 ? 'grid grid-cols-2 gap-3' : ''}>
          <SelectField
            label="Kind"
            name="media"
            options={MEDIA.map((media) => ({ value: media, words: figuresOf(media).name }))}
          />
          {others.length > 0 && <NumberField label="How many" name="count" min={1} max={others.length + 1} />}
        </div>
      </Sheet>
      {drive && drives.length > 1 && (
        <Button className="mt-2" onClick={onLeaveOut}>
          Into the drawer
        </Button>
      )}
      {drawer.length > 0 && (
        <section aria-label="Out of the drawer" className="mt-3 flex flex-wrap gap-1.5 border-t border-line pt-2">
          {drawer.map((spare, i) => (
            <Button key={i} onClick={() => onFromDrawer(i)}>
              {formatBytes(spare.bytes)} {spare.serial?.slice(-4)} from the drawer
            </Button>
          ))}
        </section>
      )}
    </>
  );
}
