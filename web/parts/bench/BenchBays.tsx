'use client';
import type { DragEvent, ComponentProps, ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { figuresOf } from '~/core/drive/media';
import { formatBytes } from '~/core/quantity/formatBytes';
import { bayName, bayShort } from '~/core/unit/bayName';
import type { Enclosure } from '~/core/unit/state';
import { BayPopover } from './BayPopover';
import { BAY_TYPE, Drawer, DRAWER_TYPE } from './Drawer';
import { freeBays, withDrawerDrive, withoutBay } from './drives';

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
  const leaveOut = (bay: string): void => {
    const out = drives.find((drive) => drive.bay === bay);
    if (out && drives.length > 1) onChange(withoutBay(drives, bay), [...drawer, out]);
  };
  const takeFromDrawer = (bay: string, index: number): void => {
    const taken = drawer[index];
    if (!taken) return;
    const replaced = drives.find((drive) => drive.bay === bay);
    onChange(withDrawerDrive(drives, bay, taken), [
      ...drawer.filter((_, i) => i !== index),
      ...(replaced ? [replaced] : []),
    ]);
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
                place={bayName({ enclosures }, bay)}
                drive={drive}
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
                  drive={drive}
                  isDense={isDense}
                  isSpare={spareBays.includes(bay)}
                  onDrawerDrop={(index) => takeFromDrawer(bay, index)}
                />
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
  /** The bay as its unit counts it. */
  readonly place: string;
  readonly drive: ListedDrive | undefined;
  readonly isDense: boolean;
  readonly isSpare: boolean;
  readonly onDrawerDrop: (index: number) => void;
}

function BayCard({ bay, place, drive, isDense, isSpare, onDrawerDrop, ...rest }: CardProps): ReactNode {
  const drop = (event: DragEvent): void => {
    const index = event.dataTransfer.getData(DRAWER_TYPE);
    if (index === '') return;
    event.preventDefault();
    onDrawerDrop(Number(index));
  };
  const look = !drive
    ? 'border-dashed border-muted text-muted'
    : isSpare
      ? 'border-dotted border-ink bg-surface'
      : 'border-line bg-surface';
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
