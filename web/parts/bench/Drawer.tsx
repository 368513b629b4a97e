'use client';
import type { DragEvent, ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { formatBytes } from '~/core/quantity/formatBytes';

/** What a dragged drive is announced as; its place in the drawer, or its bay, goes along. */
export const DRAWER_TYPE = 'application/x-shelf-drawer';
export const BAY_TYPE = 'application/x-shelf-bay';

const KEY = 'shelf-bench-drawer';

export function loadDrawer(): ListedDrive[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? (kept as ListedDrive[]) : [];
  } catch {
    return [];
  }
}

export function saveDrawer(drives: readonly ListedDrive[]): void {
  localStorage.setItem(KEY, JSON.stringify(drives));
}

/** Drives that are in hand and in no bay: drag one onto a bay, or press the bay and choose it there. */
export function Drawer({
  drives,
  onDropIn,
}: {
  readonly drives: readonly ListedDrive[];
  readonly onDropIn: (bay: string) => void;
}): ReactNode {
  const drop = (event: DragEvent): void => {
    const bay = event.dataTransfer.getData(BAY_TYPE);
    if (bay === '') return;
    event.preventDefault();
    onDropIn(bay);
  };
  return (
    <div
      className="no-print flex flex-wrap items-center gap-1.5"
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
      aria-label="Spares drawer"
      role="group"
    >
      <span className="text-sm text-muted">
        {drives.length === 0 ? 'Drawer: empty. Drag a drive here to leave it out.' : 'Drawer:'}
      </span>
      {drives.map((drive, i) => (
        <span
          key={i}
          draggable
          onDragStart={(event) => event.dataTransfer.setData(DRAWER_TYPE, String(i))}
          className="cursor-grab border border-dotted border-ink bg-surface px-2 py-0.5 text-sm"
          title={drive.serial}
        >
          {formatBytes(drive.bytes)}
          {drive.serial !== undefined && <span className="ml-1 font-mono text-muted">{drive.serial.slice(-4)}</span>}
        </span>
      ))}
    </div>
  );
}
