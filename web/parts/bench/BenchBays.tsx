'use client';
import type { DragEvent, ComponentProps, ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { figuresOf } from '~/core/drive/media';
import { formatBytes } from '~/core/quantity/formatBytes';
import { BayPopover } from './BayPopover';
import { BAY_TYPE, Drawer, DRAWER_TYPE } from './Drawer';
import { freeBays, withDrawerDrive, withoutBay } from './drives';

/** Bays drawn one by one up to this many; beyond, they are counted by size. */
const MOST_DRAWN = 36;

interface Props {
  readonly drives: readonly ListedDrive[];
  readonly drawer: readonly ListedDrive[];
  readonly bays: number;
  readonly spareBays: readonly string[];
  /** A change on top: the whole sheet, written anew, and what is in the drawer then. */
  readonly onChange: (sheet: string, drawer: readonly ListedDrive[]) => void;
}

/** The drives in hand, bay by bay, with the drawer beside; press a bay to try another drive there, or drag one. */
export function BenchBays({ drives, drawer, bays, spareBays, onChange }: Props): ReactNode {
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
  const leaveOut = (bay: string): void => {
    const out = drives.find((drive) => drive.bay === bay);
    if (out && drives.length > 1) onChange(withoutBay(drives, bay), [...drawer, out]);
  };
  const takeFromDrawer = (bay: string, index: number): void => {
    const taken = drawer[index];
    if (!taken) return;
    const replaced = drives.find((drive) => drive.bay === bay);
    onChange(withDrawerDrive(drives, bay, taken), [...drawer.filter((_, i) => i !== index), ...(replaced ? [replaced] : [])]);
  };
  return (
    <div className="grid gap-1.5">
      <ul aria-label="Bays" className="flex flex-wrap gap-1.5">
        {[...drives.map(({ bay }) => bay), ...free].map((bay) => {
          const drive = drives.find((other) => other.bay === bay);
          return (
            <li key={bay}>
              <BayPopover
                bay={bay}
                drive={drive}
                drives={drives}
                drawer={drawer}
                free={free}
                onSheet={(sheet) => onChange(sheet, drawer)}
                onLeaveOut={() => leaveOut(bay)}
                onFromDrawer={(index) => takeFromDrawer(bay, index)}
              >
                <BayCard bay={bay} drive={drive} isDense={isDense} isSpare={spareBays.includes(bay)} onDrawerDrop={(index) => takeFromDrawer(bay, index)} />
              </BayPopover>
            </li>
          );
        })}
      </ul>
      <Drawer drives={drawer} onDropIn={leaveOut} />
    </div>
  );
}

interface CardProps extends ComponentProps<'button'> {
  readonly bay: string;
  readonly drive: ListedDrive | undefined;
  readonly isDense: boolean;
  readonly isSpare: boolean;
  readonly onDrawerDrop: (index: number) => void;
}

function BayCard({ bay, drive, isDense, isSpare, onDrawerDrop, ...rest }: CardProps): ReactNode {
  const drop = (event: DragEvent): void => {
    const index = event.dataTransfer.getData(DRAWER_TYPE);
    if (index === '') return;
    event.preventDefault();
    onDrawerDrop(Number(index));
  };
  const look = !drive ? 'border-dashed border-muted text-muted' : isSpare ? 'border-dotted border-ink bg-surface' : 'border-line bg-surface';
  return (
    <button
      type="button"
      {...rest}
      draggable={drive !== undefined}
      onDragStart={(event) => event.dataTransfer.setData(BAY_TYPE, bay)}
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
      title={drive?.serial}
      className={`border text-left hover:bg-chosen ${look} ${isDense ? 'min-w-[50px] px-1.5 py-0.5' : 'min-w-[66px] px-2 py-1'}`}
    >
      <span className="block text-xs text-muted">{isSpare ? `${bay}, spare` : isDense ? bay : `bay ${bay}`}</span>
      <span className={`${isDense ? 'text-sm' : 'text-lg'} ${drive ? 'font-bold' : ''}`}>{drive ? formatBytes(drive.bytes) : 'free'}</span>
      {drive?.media !== undefined && drive.media !== 'hard-disk' && (
        <span className="block text-xs text-muted">{figuresOf(drive.media).name.replace(/ (hard disk|drive)$/, '')}</span>
      )}
    </button>
  );
}
