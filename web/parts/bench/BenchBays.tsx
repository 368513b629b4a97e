'use client';
import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { ComponentProps, ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { figuresOf } from '~/core/drive/media';
import { formatBytes } from '~/core/quantity/formatBytes';
import { bayName, bayShort } from '~/core/unit/bayName';
import type { Enclosure } from '~/core/unit/state';
import { BayPopover } from './BayPopover';
import { bayId, type Spot } from './dragged';
import { DragRoom } from './DragRoom';
import { Drawer } from './Drawer';
import { freeBays, withBaysSwapped, withDrawerDrive, withoutBay } from './drives';

/** Bays drawn one by one up to this many; beyond, they are counted by size. */
const MOST_DRAWN = 36;

interface Props {
  readonly drives: readonly ListedDrive[];
  readonly drawer: readonly ListedDrive[];
  readonly enclosures: readonly Enclosure[];
  readonly spareBays: readonly string[];
  /** A change on top: the whole sheet, written anew, and what is in the drawer then. */
  readonly onChange: (sheet: string, drawer: readonly ListedDrive[]) => void;
}

const MOST_SIZES = 12;

/** "12 × 4 TB, 3 × 8 TB". */
function bySize(drives: readonly ListedDrive[]): string {
  const sizes = new Map<string, number>();
  for (const { bytes } of drives) sizes.set(formatBytes(bytes), (sizes.get(formatBytes(bytes)) ?? 0) + 1);
  if (sizes.size === 0) return 'none';
  const shown = [...sizes].slice(0, MOST_SIZES).map(([size, count]) => `${String(count)} × ${size}`);
  return `${shown.join(', ')}${sizes.size > MOST_SIZES ? ` and ${String(sizes.size - MOST_SIZES)} more sizes` : ''}`;
}

/** The drives in hand, bay by bay, with the drawer beside; press a bay to try another drive there, or drag one. */
export function BenchBays({ drives, drawer, enclosures, spareBays, onChange }: Props): ReactNode {
  if (drives.length > MOST_DRAWN) {
    return (
      <ul aria-label="Drives by size" className="text-muted">
        {(enclosures.length > 1 ? enclosures : [{ name: null, bays: drives.map(({ bay }) => bay) }]).map(
          ({ name, bays }) => (
            <li key={name}>
              {name !== null && `${name}: `}
              {bySize(drives.filter(({ bay }) => bays.includes(bay)))}
            </li>
          ),
        )}
      </ul>
    );
  }
  const isDense = enclosures.length > 1 || Math.max(enclosures.flatMap(({ bays }) => bays).length, drives.length) > 8;
  const free = freeBays(drives, enclosures).slice(0, MOST_DRAWN - drives.length);
  const driveIn = (bay: string): ListedDrive | undefined => drives.find((drive) => drive.bay === bay);
  const leaveOut = (bay: string): void => {
    const out = driveIn(bay);
    if (out && drives.length > 1) onChange(withoutBay(drives, bay), [...drawer, out]);
  };
  const takeFromDrawer = (bay: string, index: number): void => {
    const taken = drawer[index];
    if (!taken) return;
    const replaced = driveIn(bay);
    onChange(withDrawerDrive(drives, bay, taken), [
      ...drawer.filter((_, i) => i !== index),
      ...(replaced ? [replaced] : []),
    ]);
  };
  const put = (from: Spot, to: Spot): void => {
    if (from.kind === 'in-drawer' && to.kind === 'bay') takeFromDrawer(to.bay, from.index);
    if (from.kind === 'bay' && to.kind === 'drawer') leaveOut(from.bay);
    if (from.kind === 'bay' && to.kind === 'bay') onChange(withBaysSwapped(drives, from.bay, to.bay), drawer);
  };
  const heldBy = (spot: Spot): ListedDrive | undefined =>
    spot.kind === 'bay' ? driveIn(spot.bay) : spot.kind === 'in-drawer' ? drawer[spot.index] : undefined;
  const nameOf = (spot: Spot): string => {
    const place = spot.kind === 'bay' ? bayName({ enclosures }, spot.bay) : 'the drawer';
    const drive = heldBy(spot);
    return drive ? `${place}, ${formatBytes(drive.bytes)}` : place;
  };
  return (
    <DragRoom nameOf={nameOf} inHand={(spot) => <InHand drive={heldBy(spot)} />} onPut={put}>
      <div className="grid gap-1.5">
        <ul aria-label="Bays" className="flex flex-wrap gap-1.5">
          {[...drives.map(({ bay }) => bay), ...free].map((bay) => (
            <li key={bay}>
              <BayPopover
                bay={bay}
                place={bayName({ enclosures }, bay)}
                drive={driveIn(bay)}
                drives={drives}
                drawer={drawer}
                free={free}
                onSheet={(sheet) => onChange(sheet, drawer)}
                onLeaveOut={() => leaveOut(bay)}
                onFromDrawer={(index) => takeFromDrawer(bay, index)}
              >
                <BayCard
                  bay={bay}
                  place={bayShort({ enclosures }, bay)}
                  drive={driveIn(bay)}
                  isDense={isDense}
                  isSpare={spareBays.includes(bay)}
                />
              </BayPopover>
            </li>
          ))}
        </ul>
        <Drawer drives={drawer} />
      </div>
    </DragRoom>
  );
}

/** A drive on its way. */
function InHand({ drive }: { readonly drive: ListedDrive | undefined }): ReactNode {
  return (
    drive && (
      <span className="block w-max border border-ink bg-surface px-2 py-1 text-lg font-bold">
        {formatBytes(drive.bytes)}
      </span>
    )
  );
}

interface CardProps extends ComponentProps<'button'> {
  readonly bay: string;
  /** The bay as its unit counts it. */
  readonly place: string;
  readonly drive: ListedDrive | undefined;
  readonly isDense: boolean;
  readonly isSpare: boolean;
}

/** A bay with what is in it: pressed it opens, and its drive can be carried off. */
function BayCard({ bay, place, drive, isDense, isSpare, ref: opened, ...rest }: CardProps): ReactNode {
  const lifted = useDraggable({ id: bayId(bay), disabled: drive === undefined });
  const target = useDroppable({ id: bayId(bay) });
  const look = !drive
    ? 'border-dashed border-muted text-muted'
    : isSpare
      ? 'border-dotted border-ink bg-surface'
      : 'border-line bg-surface';
  const both = (node: HTMLButtonElement | null): void => {
    lifted.setNodeRef(node);
    target.setNodeRef(node);
    if (typeof opened === 'function') opened(node);
    else if (opened) opened.current = node;
  };
  return (
    <button
      type="button"
      {...rest}
      ref={both}
      {...(drive
        ? {
            ...lifted.listeners,
            'aria-describedby': lifted.attributes['aria-describedby'],
            'aria-roledescription': 'drive to carry',
          }
        : {})}
      title={drive?.serial}
      className={`border text-left hover:bg-chosen ${look} ${target.isOver ? 'outline-2 outline-action' : ''} ${lifted.isDragging ? 'opacity-40' : ''} ${isDense ? 'min-w-[50px] px-1.5 py-0.5' : 'min-w-[66px] px-2 py-1'}`}
    >
      <span className="block text-xs text-muted">{isSpare ? `${place}, spare` : isDense ? place : `bay ${place}`}</span>
      <span className={`${isDense ? 'text-sm' : 'text-lg'} ${drive ? 'font-bold' : ''}`}>
        {drive ? formatBytes(drive.bytes) : 'free'}
      </span>
      {drive?.media !== undefined && drive.media !== 'hard-disk' && (
        <span className="block text-xs text-muted">
          {figuresOf(drive.media).name.replace(/ (hard disk|drive)$/, '')}
        </span>
      )}
    </button>
  );
}
