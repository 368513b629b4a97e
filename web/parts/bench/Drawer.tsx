'use client';
import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { formatBytes } from '~/core/quantity/formatBytes';
import { DRAWER_ID, inDrawerId } from './dragged';

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

/** Drives that are in hand and in no bay: carry one onto a bay, or press the bay and choose it there. */
export function Drawer({ drives }: { readonly drives: readonly ListedDrive[] }): ReactNode {
  const { setNodeRef, isOver } = useDroppable({ id: DRAWER_ID });
  return (
    <div
      ref={setNodeRef}
      className={`no-print flex flex-wrap items-center gap-1.5 ${isOver ? 'outline-2 outline-action' : ''}`}
      aria-label="Spares drawer"
      role="group"
    >
      <span className="text-sm text-muted">
        {drives.length === 0 ? 'Drawer: empty. Drag a drive here to leave it out.' : 'Drawer:'}
      </span>
      {drives.map((drive, i) => (
        <InDrawer key={i} drive={drive} index={i} />
      ))}
    </div>
  );
}

function InDrawer({ drive, index }: { readonly drive: ListedDrive; readonly index: number }): ReactNode {
  const { setNodeRef, listeners, attributes, isDragging } = useDraggable({ id: inDrawerId(index) });
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      aria-describedby={attributes['aria-describedby']}
      aria-roledescription="drive to carry"
      className={`cursor-grab border border-dotted border-ink bg-surface px-2 py-0.5 text-sm max-sm:min-h-11 ${isDragging ? 'opacity-40' : ''}`}
      title={drive.serial}
    >
      {formatBytes(drive.bytes)}
      {drive.serial !== undefined && <span className="ml-1 font-mono text-muted">{drive.serial.slice(-4)}</span>}
    </button>
  );
}
