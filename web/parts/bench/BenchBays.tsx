import type { ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { formatBytes } from '~/core/quantity/formatBytes';

/** Bays drawn one by one up to this many; beyond, they are counted by size. */
const MOST_DRAWN = 36;

/** The drives in hand, bay by bay, empty bays dashed and spares outlined. */
export function BenchBays({
  drives,
  bays,
  spareBays,
}: {
  readonly drives: readonly ListedDrive[];
  readonly bays: number;
  readonly spareBays: readonly string[];
}): ReactNode {
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
  const empty = Math.min(Math.max(0, bays - drives.length), MOST_DRAWN - drives.length);
  const box = isDense ? 'min-w-[50px] px-1.5 py-0.5' : 'min-w-[66px] px-2 py-1.5';
  return (
    <ul aria-label="Bays" className="flex flex-wrap gap-1.5">
      {drives.map(({ bay, bytes, serial }) => {
        const isSpare = spareBays.includes(bay);
        return (
          <li key={bay} className={`border bg-surface ${box} ${isSpare ? 'border-ink border-dotted' : 'border-line'}`} title={serial}>
            <span className="block text-xs text-muted">{isSpare ? `${bay}, spare` : isDense ? bay : `bay ${bay}`}</span>
            <span className={isDense ? 'text-sm font-bold' : 'text-lg font-bold'}>{formatBytes(bytes)}</span>
          </li>
        );
      })}
      {Array.from({ length: empty }, (_, i) => (
        <li key={`empty ${String(i)}`} className={`border border-dashed border-muted text-muted ${box}`}>
          <span className="block text-xs">free</span>
          <span className={isDense ? 'text-sm' : 'text-lg'}>–</span>
        </li>
      ))}
    </ul>
  );
}
